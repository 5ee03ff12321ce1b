<script lang="ts">
  import type { Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { ratio as ratioWord } from "../lib/quantity";
  import WhileLost from "../lib/WhileLost.svelte";
  import { route } from "../routes";
  import { RatioDesk } from "./desk.svelte";
  import FrontRear from "./FrontRear.svelte";
  import Kept from "./Kept.svelte";
  import Knob from "../lib/Knob.svelte";
  import Ranking from "./Ranking.svelte";
  import RatioView from "./RatioView.svelte";
  import { told, unitsFor } from "../lib/units";

  const session = getSession();
  const on = new RatioDesk(route.getParams("/jobs/:id/work/:work/ratios").work, localStorage);
  void on.load();
  const desk = $derived(on.desk);
  const unit = $derived(session.unit);
  const units = $derived(unitsFor(unit));
  const may = $derived((session.me?.may.edit_job ?? false) && desk?.signed_off === false);
  const WEIGHT_NAMES: Record<string, string> = {
    cruise: "Cruise rpm",
    hold: "Grade held",
    start: "Starting",
    crawl: "Crawl",
    upshift: "Upshift",
    top_speed: "Top speed",
    pinion: "Pinion strength",
    parts: "Parts needed",
  };
  /** whether the vehicle's own gearbox is on its record, and whether it is what is chosen here */
  const known = $derived(desk?.gearboxes.some((one) => one.code === desk.gearbox) ?? false);
  const fitted = $derived(
    desk?.gearboxes[on.knobs?.now.gearbox ?? 0]?.code === desk?.gearbox &&
      (on.knobs?.transfer ?? "") === desk?.transfer_case,
  );
  /** what the phone keeps on top: the last plan, or the vehicle as it is */
  const brief = $derived(on.shown?.compared?.gearings.at(-1) ?? null);
  const TYRES = [
    { key: "tyre_now", label: "Tyre fitted" },
    { key: "tyre_planned", label: "Tyre planned" },
  ] as const;

  // every turn of a knob is worked out anew
  $effect(() => {
    if (on.knobs === null) return;
    JSON.stringify(on.knobs);
    on.follow();
  });
  $effect(() => () => on.stop());

  const said = (tyre: Schemas["Tyre"] | undefined) =>
    tyre?.valid && tyre.diameter_mm !== null && tyre.circumference_m !== null
      ? `${told(tyre.diameter_mm, units.size)} tall, rolls ${tyre.circumference_m.toFixed(3)} m${tyre.measured ? ", measured" : " ± " + (((tyre.circumference_greatest_m ?? 0) - (tyre.circumference_least_m ?? 0)) / 2).toFixed(3)}. `
      : "";
</script>

<svelte:head
  ><title>{desk ? `Ratio desk, job ${desk.job_number}` : "Ratio desk"} · Amber Pinion</title></svelte:head
>
<WhileLost lost={on.lost} again={() => on.load()} />
{#if desk && on.knobs}
  {@const knobs = on.knobs}
  <div class="mb-3 flex flex-wrap items-baseline gap-x-4">
    <h1>Ratio desk</h1>
    <p>
      <a href={`/jobs/${desk.job_id}/work/${desk.work_id}`}>Job {desk.job_number}, {desk.vehicle}</a>
      <span class="quiet"
        >{desk.family_name}
        {#if desk.is_sample}<span class="sample">Sample</span>{/if}</span
      >
    </p>
  </div>
  {#if brief && on.inputs}
    <div
      class={[
        "bg-base-100 border-base-content sticky top-0 z-10 -mx-3 border-b-4 px-3 py-1.5 lg:hidden",
        on.stale && "quiet",
      ]}
      role="status"
      aria-label="Answer in short"
    >
      {#if on.shown?.feel?.[0]}<p class="figure text-lg leading-tight">{on.shown.feel[0]}</p>{/if}
      <p>
        {brief.name}: <strong>{(brief.gears.at(-1)?.cruise_rpm ?? 0).toFixed(0)} rpm</strong> at {told(
          on.inputs.use.cruise_kmh,
          units.speed,
        )}{brief.top_kmh === null ? "" : `, top speed ${told(brief.top_kmh, units.speed)}`}
      </p>
    </div>
  {/if}
  <div class="grid grid-cols-[minmax(0,1fr)] items-start gap-x-8 gap-y-6 lg:grid-cols-[21rem_minmax(0,1fr)]">
    <form
      class="grid gap-4 max-lg:order-last"
      aria-label="Inputs"
      onsubmit={(event) => event.preventDefault()}
    >
      {#each TYRES as { key, label } (key)}
        {@const tyre = on.answer?.[key]}
        {@const odd = knobs[key].text.trim() !== "" ? tyre?.reasons : undefined}
        <div>
          <Field
            {label}
            hint={key === "tyre_planned"
              ? "Leave empty to keep the tyres. Like 265/70R17, 35x12.50R17 or 7.50-16."
              : ""}
          >
            <input
              class="input w-full"
              autocomplete="off"
              maxlength="60"
              value={knobs[key].text}
              oninput={(event) => (knobs[key].text = event.currentTarget.value)}
            />
          </Field>
          <p class="text-sm" role="status">
            {#if knobs[key].text.trim() !== ""}{said(
                tyre,
              )}{#each odd ?? [] as reason (reason.code)}{reason.text}
              {/each}{/if}
          </p>
          <details>
            <summary class="min-h-touch cursor-pointer py-2 text-sm underline underline-offset-3"
              >Measured roll-out (used instead of the size)</summary
            >
            <div class="grid grid-cols-2 gap-3">
              <Field label="Roll-out (mm)"
                ><input
                  class="input w-full"
                  type="number"
                  min="100"
                  step="any"
                  value={knobs[key].rollout_mm}
                  onchange={(event) => {
                    const mm = event.currentTarget.valueAsNumber;
                    knobs[key].rollout_mm = Number.isFinite(mm) && mm >= 100 ? mm : null;
                  }}
                /></Field
              >
              <Field label="Turns"
                ><input
                  class="input w-full"
                  type="number"
                  min="0.25"
                  step="any"
                  value={knobs[key].turns}
                  onchange={(event) => {
                    const turns = event.currentTarget.valueAsNumber;
                    if (turns >= 0.25) knobs[key].turns = turns;
                  }}
                /></Field
              >
            </div>
          </details>
        </div>
      {/each}
      <Field label="Gearbox fitted">
        <select class="select w-full" bind:value={knobs.now.gearbox}>
          {#each desk.gearboxes as one, index (one.code)}<option value={index}>{one.name}</option>{/each}
        </select>
      </Field>
      {#if may && !fitted}
        <button
          type="button"
          class="btn btn-plain btn-sm justify-self-start"
          onclick={async () => (on.wrong = await on.fit())}>Save gearbox to this vehicle</button
        >
      {/if}
      <Field label="Axle ratio fitted">
        <select class="select w-full" bind:value={knobs.now.axle}>
          {#each desk.ratios as one, index (index)}<option value={index}
              >{one.pinion_teeth}/{one.ring_teeth}, {ratioWord(one.ratio)}</option
            >{/each}
        </select>
      </Field>
      {#if desk.transfer_cases.length > 0}
        <Field label="Transfer case">
          <select class="select w-full" bind:value={knobs.transfer}>
            <option value="">none</option>
            {#each desk.transfer_cases as one (one.code)}<option value={one.code}>{one.name}</option>{/each}
          </select>
        </Field>
      {/if}
      <fieldset class="grid gap-2">
        <legend class="figure mb-1 text-lg">Use</legend>
        <Knob
          label="Cruising speed"
          value={knobs.cruise_kmh}
          min={30}
          max={140}
          unit={units.speed}
          onturn={(v) => v && (knobs.cruise_kmh = v)}
        />
        <Knob
          label="Engine speed at cruise, min (rpm)"
          value={knobs.cruise_rpm_min}
          min={800}
          max={4000}
          step={50}
          onturn={(v) => v && (knobs.cruise_rpm_min = v)}
        />
        <Knob
          label="Engine speed at cruise, max (rpm)"
          value={knobs.cruise_rpm_max}
          min={800}
          max={5000}
          step={50}
          onturn={(v) => v && (knobs.cruise_rpm_max = v)}
        />
        <Knob
          label="Mass with load and trailer"
          value={knobs.mass_kg}
          min={800}
          max={12000}
          step={50}
          unit={units.mass}
          onturn={(v) => v && (knobs.mass_kg = v)}
        />
        <Knob
          label="Grade to hold (%)"
          value={knobs.hold_grade_pct}
          min={0}
          max={20}
          step={0.5}
          optional
          onturn={(v) => (knobs.hold_grade_pct = v)}
        />
        <Knob
          label="Grade to start on (%)"
          value={knobs.start_grade_pct}
          min={0}
          max={60}
          optional
          onturn={(v) => (knobs.start_grade_pct = v)}
        />
        <details>
          <summary class="min-h-touch cursor-pointer py-2 font-semibold">More</summary>
          <Knob
            label="Crawl speed at most"
            value={knobs.crawl_kmh}
            min={0.5}
            max={15}
            step={0.5}
            unit={{ ...units.speed, digits: 1 }}
            optional
            onturn={(v) => (knobs.crawl_kmh = v)}
          />
          <Knob
            label="Top speed wanted"
            value={knobs.top_kmh}
            min={40}
            max={200}
            unit={units.speed}
            optional
            onturn={(v) => (knobs.top_kmh = v)}
          />
          <Knob
            label="Engine speed after an upshift, min (rpm)"
            value={knobs.upshift_rpm_min}
            min={800}
            max={4000}
            step={50}
            optional
            onturn={(v) => (knobs.upshift_rpm_min = v)}
          />
          <Knob
            label="Drag coefficient × area (m²)"
            value={knobs.drag_area_m2}
            min={0.4}
            max={5}
            step={0.05}
            onturn={(v) => v && (knobs.drag_area_m2 = v)}
          />
        </details>
      </fieldset>
      <details>
        <summary class="min-h-touch cursor-pointer py-2 font-semibold">Engine</summary>
        <Knob
          label="Idle (rpm)"
          value={knobs.idle_rpm}
          min={500}
          max={1500}
          step={10}
          onturn={(v) => v && (knobs.idle_rpm = v)}
        />
        <Knob
          label="Maximum (rpm)"
          value={knobs.redline_rpm}
          min={2000}
          max={8000}
          step={50}
          onturn={(v) => v && (knobs.redline_rpm = v)}
        />
        {#each knobs.torque as point, index (index)}
          <Knob
            label={`Torque point ${index + 1}, rpm`}
            value={point.rpm}
            min={800}
            max={8000}
            step={50}
            onturn={(v) => v && (point.rpm = v)}
          />
          <Knob
            label={`Torque point ${index + 1}`}
            value={point.torque_nm}
            min={50}
            max={1200}
            step={5}
            unit={units.torque}
            onturn={(v) => v && (point.torque_nm = v)}
          />
        {/each}
        {#if knobs.torque.length < 6}
          <button
            type="button"
            class="btn btn-plain btn-sm"
            onclick={() => {
              const last = knobs.torque.at(-1);
              if (last) knobs.torque = [...knobs.torque, { rpm: last.rpm + 250, torque_nm: last.torque_nm }];
            }}>Add a point</button
          >
        {/if}
      </details>
      <details>
        <summary class="min-h-touch cursor-pointer py-2 font-semibold">Weights</summary>
        {#each Object.keys(WEIGHT_NAMES) as name (name)}
          <Knob
            label={WEIGHT_NAMES[name] ?? name}
            value={knobs.weights[name] ?? 0}
            min={0}
            max={5}
            step={0.5}
            onturn={(v) => (knobs.weights[name] = v ?? 0)}
          />
        {/each}
      </details>
      <details>
        <summary class="min-h-touch cursor-pointer py-2 font-semibold">Speedometer</summary>
        <Field label="Pulses from">
          <select class="select w-full" bind:value={knobs.speedometer.source}>
            <option value="prop">gearbox or transfer case output</option>
            <option value="wheel">a wheel</option>
          </select>
        </Field>
        <Knob
          label="Indicated over true speed now"
          value={knobs.speedometer.factor_before}
          min={0.9}
          max={1.15}
          step={0.005}
          onturn={(v) => v && (knobs.speedometer.factor_before = v)}
        />
        <Knob
          label="Teeth of the driven gear"
          value={knobs.speedometer.driven_teeth}
          min={5}
          max={60}
          optional
          onturn={(v) => (knobs.speedometer.driven_teeth = v === null ? null : Math.round(v))}
        />
      </details>
    </form>
    <div class="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-6">
      <Notice text={on.wrong ?? (on.lost ? "The connection is lost; what you entered is kept." : null)} />
      {#if on.inputs && on.shown?.compared && on.shown.chosen}
        <section aria-label="Answer" class:stale={on.stale} aria-busy={on.stale}>
          {#if !known}<p>
              <span class="sample">Sample</span> The gearbox of this vehicle is not known: choose the one fitted.
            </p>{/if}
          <RatioView
            inputs={on.inputs}
            answer={on.shown}
            {unit}
            onremove={(index) => (knobs.candidates = knobs.candidates.filter((_, place) => place !== index))}
          />
        </section>
        <section aria-labelledby="ranking" class="rule-top pt-3">
          <h2 id="ranking">Ratios of this family, best for the use first</h2>
          <label class="min-h-touch flex items-center gap-3"
            ><input class="checkbox" type="checkbox" bind:checked={knobs.later} /> with other gearboxes too</label
          >
          <Ranking {on} chosen={on.shown.chosen} may={true} later={knobs.later} />
          <p class="quiet text-sm">
            Pinion stress is a typical figure for comparison, not proof of strength. Ratio and tyre changes
            can need approval or the insurer's notice: follow local rules.
          </p>
        </section>
      {:else}
        <p class="max-w-prose">
          Type the size from the sidewall of the tyre that is fitted. Then the plan: another tyre, another
          ratio, another gearbox.
        </p>
      {/if}
      <FrontRear {on} {desk} {may} />
      <Kept {on} {desk} {unit} {may} />
    </div>
  </div>
{:else}
  <Notice text={on.wrong ?? (on.lost ? "The connection is lost; the desk shows when it is back." : null)} />
{/if}
