<script lang="ts">
  import Axes from "../lib/Axes.svelte";
  import Notice from "../lib/Notice.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import { BOX, line, plot } from "../lib/plot";
  import type { LengthUnit } from "../lib/quantity";
  import { inPersonsUnits } from "../lib/sentences";
  import TypedField from "../lib/TypedField.svelte";
  import { told, type Quantity, type Unit } from "../lib/units";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../lib/words";
  import type { DrivelineAnswer, DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    answer: DrivelineAnswer;
    unit: LengthUnit;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, answer, unit, units }: Props = $props();
  const size = $derived({ ...units.size, digits: units.size.name === "in" ? 2 : 0 });
  const setting = $derived(answer.tried ?? answer.now);
  const travel = $derived(setting.travel);
  const slip = $derived(setting.slip);
  const one = (mm: number) => told(mm, size);
  const CONDITIONS = [
    { key: "at_ride_height", word: "At ride height" },
    { key: "vehicle_level", word: "Vehicle level" },
    { key: "suspension_loaded", word: "Suspension loaded, wheels on the ground or on ramps" },
  ] as const;
  const chart = $derived.by(() => {
    if (!travel) return null;
    const shown = travel.sweep.map((at) => ({ x: at.dz_mm * size.per, y: at.length_mm * size.per }));
    const least = Math.min(...shown.map((at) => at.y));
    const most = Math.max(...shown.map((at) => at.y));
    const room = Math.max((most - least) * 0.2, 0.5 * size.per);
    const scale = plot(shown.at(-1)?.x ?? 1, most + room, shown[0]?.x ?? 0, BOX, least - room);
    return { scale, path: line(shown, scale) };
  });
  function set(change: () => void) {
    change();
    on.changed();
  }
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-6">
  {#if travel && chart}
    <section aria-labelledby="plunge" class="grid gap-x-8 gap-y-3 lg:grid-cols-[minmax(0,1fr)_18rem]">
      <div>
        <h2 id="plunge">Length of the slip shaft over the travel</h2>
        <svg
          viewBox={`0 0 ${BOX.width} ${BOX.height}`}
          class="block w-full"
          role="img"
          aria-label={`Shaft length from droop to bump: ${one(travel.length_droop_mm)} fully down, ${one(travel.length_ride_mm)} at ride, ${one(travel.length_bump_mm)} fully up; shortest ${one(travel.length_min_mm)}, longest ${one(travel.length_max_mm)}.`}
        >
          <Axes
            chart={chart.scale}
            xName={`axle up, ${size.name}`}
            yName={`joint to joint, ${size.name}`}
            yDigits={size.digits}
          />
          <path d={chart.path} fill="none" stroke="currentColor" stroke-width="2.6" />
          {#each [{ name: "ride", x: 0, y: travel.length_ride_mm }, { name: "shortest", x: travel.shortest_at_mm, y: travel.length_min_mm }, { name: "longest", x: travel.longest_at_mm, y: travel.length_max_mm }] as mark (mark.name)}
            <circle
              cx={chart.scale.x(mark.x * size.per)}
              cy={chart.scale.y(mark.y * size.per)}
              r="6"
              fill="currentColor"
            />
            <text
              x={Math.min(Math.max(chart.scale.x(mark.x * size.per), BOX.left + 34), BOX.width - 66)}
              y={chart.scale.y(mark.y * size.per) + (mark.name === "shortest" ? 22 : -11)}
              text-anchor="middle"
              class="figure"
              font-size="16"
              fill="currentColor">{mark.name}</text
            >
          {/each}
        </svg>
      </div>
      <dl class="grid content-start gap-2">
        <div>
          <dt class="label-text">From ride it is pushed in</dt>
          <dd class="figure text-2xl">{one(travel.plunge_in_mm)}</dd>
        </div>
        <div>
          <dt class="label-text">and drawn out</dt>
          <dd class="figure text-2xl">{one(travel.plunge_out_mm)}</dd>
        </div>
        <div>
          <dt class="label-text">Largest joint angles</dt>
          <dd>
            {#each travel.joint_max_deg as angle, index (index)}
              <span class="block"
                >Joint {index + 1}: <span class="figure text-xl">{angle.toFixed(1)}°</span>
                <span class="quiet text-sm"
                  >with the axle {one(Math.abs(travel.joint_max_at_mm[index] ?? 0))}
                  {(travel.joint_max_at_mm[index] ?? 0) < 0 ? "down" : "up"}</span
                ></span
              >
            {/each}
          </dd>
        </div>
      </dl>
    </section>
  {/if}
  <section aria-labelledby="slip">
    <h2 id="slip">Slip joint</h2>
    <div class="grid max-w-2xl grid-cols-1 gap-2 sm:grid-cols-3">
      {#each [{ key: "spline_diameter_mm", word: "Spline diameter" }, { key: "engaged_ride_mm", word: "Spline engaged at ride" }, { key: "collapse_ride_mm", word: "Can be pushed in" }] as const as field (field.key)}
        <NumberField
          label={field.word}
          value={inputs.slip?.[field.key]}
          unit={size}
          optional
          ontyped={(value) =>
            set(() => {
              if (value === null) inputs.slip = null;
              else {
                inputs.slip ??= { spline_diameter_mm: 35, engaged_ride_mm: 90, collapse_ride_mm: 50 };
                inputs.slip[field.key] = value;
              }
            })}
        />
      {/each}
    </div>
    {#if slip}
      <p class="figure mt-3 flex items-center gap-2 text-2xl">
        <VerdictMark verdict={slip.verdict} size={26} />{VERDICT_WORDS[slip.verdict]}
      </p>
      <ul>
        {#each slip.reasons as reason (reason.code + reason.field)}<li>
            {inPersonsUnits(reason.text, unit)}
          </li>{/each}
      </ul>
      {#if slip.lengthen_shaft_by_mm !== 0}
        <p>
          A shaft {one(Math.abs(slip.lengthen_shaft_by_mm))}
          {slip.lengthen_shaft_by_mm > 0 ? "longer would have enough spline." : "shorter would not bottom."}
        </p>
      {/if}
      <p class="quiet text-sm">
        Two diameters of spline and 25 mm of room are rules of thumb. A slip joint that bottoms drives the
        output seal out; one that runs out of spline lets the shaft drop.
      </p>
    {:else}
      <p class="quiet">
        Type the three figures: measured at ride height, from a mark on the spline to the seal lip, and how
        far the yoke still goes in.
      </p>
    {/if}
  </section>
  <section aria-labelledby="order" class="rule-top pt-3">
    <h2 id="order">Length to order</h2>
    <fieldset class="my-2">
      <legend class="label-text">First: how was it measured?</legend>
      {#each CONDITIONS as condition (condition.key)}
        <label class="min-h-touch flex items-center gap-3"
          ><input
            class="checkbox"
            type="checkbox"
            checked={inputs.order[condition.key]}
            onchange={(event) => set(() => (inputs.order[condition.key] = event.currentTarget.checked))}
          />
          {condition.word}</label
        >
      {/each}
    </fieldset>
    <div class="grid max-w-3xl gap-2 sm:grid-cols-2">
      <NumberField
        label="Output flange face to joint centre"
        value={inputs.order.flange_out_mm}
        unit={size}
        ontyped={(value) => value !== null && set(() => (inputs.order.flange_out_mm = value))}
      />
      <NumberField
        label="Pinion flange face to joint centre"
        value={inputs.order.flange_pinion_mm}
        unit={size}
        ontyped={(value) => value !== null && set(() => (inputs.order.flange_pinion_mm = value))}
      />
      <TypedField
        label="Ends, in words"
        bind:value={inputs.order.ends}
        long
        hint="flanges, bolts, slip side"
      />
      <TypedField label="For the shaft maker" bind:value={inputs.order.note} long />
    </div>
    {#if CONDITIONS.every((condition) => inputs.order[condition.key])}
      <p class="figure mt-3 text-3xl">{one(answer.face_to_face_mm)}</p>
      <p>
        {inputs.readings.shafts.length === 1
          ? "Flange face to flange face, at ride height."
          : "Joint ahead of the last shaft to the pinion flange's face, at ride height."}
        Keep it on the job below; the order sheet is made from what was kept.
      </p>
    {:else}
      <Notice
        kind="told"
        text="The length counts only loaded, level and at ride height: tick all three, and it shows here."
      />
    {/if}
    <p class="quiet mt-2 text-sm">
      Welding and balancing go to a licensed shaft maker. With a shaft out, Park and a transmission handbrake
      hold nothing: chocks both ways first.
    </p>
  </section>
</div>
