<script lang="ts">
  import type { Schemas } from "../api/client";
  import type { LengthUnit } from "../lib/quantity";
  import ForceChart from "./ForceChart.svelte";
  import Sawtooth from "./Sawtooth.svelte";
  import TyreDrawing from "./TyreDrawing.svelte";
  import { told, unitsFor } from "../lib/units";

  interface Props {
    inputs: Schemas["RatioInputs"];
    answer: Schemas["RatioAnswer"];
    unit: LengthUnit;
    onremove?: ((candidate: number) => void) | null;
  }
  let { inputs, answer, unit, onremove = null }: Props = $props();
  const units = $derived(unitsFor(unit));
  const compared = $derived(answer.compared);
  const gearings = $derived(compared?.gearings ?? []);
  let picked = $state<number | null>(null);
  /** the last put beside, unless one was picked */
  const shown = $derived(Math.min(picked ?? gearings.length - 1, gearings.length - 1));
  const gearing = $derived(gearings[shown]);
  const most_kmh = $derived(
    Math.min(Math.max(...gearings.map((one) => one.gears.at(-1)?.redline_kmh ?? 0), 40), 220),
  );
  const firstCandidate = $derived(gearings.length - inputs.candidates.length);
  /** the speedometer card that belongs to a gearing: as it is has none before the tyres change */
  const meter = (index: number) =>
    index === 0
      ? null
      : (answer.speedometers[index < firstCandidate ? 0 : index - firstCandidate + 1] ?? null);
  const card = $derived(shown > 0 ? meter(shown) : null);
  const ROWS = $derived([
    {
      name: `rpm at ${told(inputs.use.cruise_kmh, units.speed)}, top two gears`,
      of: (one: Schemas["GearingShown"]) =>
        one.gears
          .slice(-2)
          .reverse()
          .map((gear) => gear.cruise_rpm.toFixed(0))
          .join(", "),
    },
    { name: "Cruise band", of: (one: Schemas["GearingShown"]) => one.cruise_band },
    {
      name: "Holds at cruise, best gear",
      of: (one: Schemas["GearingShown"]) => {
        const held = one.gears.map((gear) => gear.cruise_grade_pct).filter((grade) => grade !== null);
        return held.length > 0 ? `${Math.max(...held).toFixed(1)} %` : "–";
      },
    },
    {
      name: "Starts on, in first",
      of: (one: Schemas["GearingShown"]) =>
        one.start_grade_pct === null ? "–" : `${one.start_grade_pct.toFixed(0)} %`,
    },
    {
      name: "Top speed, level",
      of: (one: Schemas["GearingShown"]) =>
        one.top_kmh === null ? "–" : `${told(one.top_kmh, units.speed)} in ${one.top_gear}`,
    },
    { name: "Creeps at idle", of: (one: Schemas["GearingShown"]) => told(one.creep_kmh, units.speed, 1) },
  ]);
</script>

{#if compared && gearing}
  <div class="relative overflow-x-auto" tabindex="-1">
    <table class="w-full min-w-[34rem]">
      <thead>
        <tr class="text-left align-bottom">
          <th scope="col"><span class="sr-only">What</span></th>
          {#each gearings as one, index (index)}
            <th scope="col" class="pb-1 pl-3">
              <button
                class={[
                  "figure min-h-touch w-full border-b-4 px-1 text-left text-lg",
                  index === shown ? "border-base-content" : "border-line",
                ]}
                aria-pressed={index === shown}
                onclick={() => (picked = index)}>{one.name}</button
              >
            </th>
          {/each}
        </tr>
      </thead>
      <tbody>
        {#each ROWS as row (row.name)}
          <tr class="border-line border-t">
            <th scope="row" class="quiet py-1 text-left font-normal">{row.name}</th>
            {#each gearings as one, index (index)}<td class="py-1 pl-3">{row.of(one)}</td>{/each}
          </tr>
        {/each}
        {#if gearings.length > 1}
          <tr class="border-line border-t align-top">
            <th scope="row" class="quiet py-1 text-left font-normal">Speedometer left as it is</th>
            {#each gearings as one, index (one.name + index)}
              {@const found = meter(index)}
              <td class="py-1 pl-3">
                {#if found}
                  shows {told(100 / units.speed.per, units.speed)}, goes
                  <strong>{told(found.true_kmh / units.speed.per, units.speed, 1)}</strong>
                  {#if found.shown_over_true < 1}<strong class="text-out block">under-reads</strong>{/if}
                {/if}
              </td>
            {/each}
          </tr>
          <tr class="border-line border-t align-top">
            <th scope="row" class="quiet py-1 text-left font-normal">Against now</th>
            {#each gearings as one, index (index)}
              <td class="py-1 pl-3 text-sm">
                {#each one.better as text (text)}<p>
                    <span class="text-in font-bold">+</span>
                    {text}
                  </p>{/each}
                {#each one.worse as text (text)}<p>
                    <span class="text-out font-bold">−</span>
                    {text}
                  </p>{/each}
                {#if onremove && index >= firstCandidate}
                  <button
                    class="min-h-touch underline underline-offset-3"
                    onclick={() => onremove?.(index - firstCandidate)}
                    >Take away<span class="sr-only"> {one.name}</span></button
                  >
                {/if}
              </td>
            {/each}
          </tr>
        {/if}
      </tbody>
    </table>
  </div>
  <div class="mt-5 grid grid-cols-[minmax(0,1fr)] gap-6 xl:grid-cols-2">
    <figure>
      <figcaption class="label-text">{gearing.name}: engine speed, gear by gear</figcaption>
      <Sawtooth
        {gearing}
        now={shown === 0 ? null : (gearings[0] ?? null)}
        use={inputs.use}
        engine={inputs.engine}
        speed={units.speed}
        {most_kmh}
      />
      <p class="quiet text-sm">Band: wanted at cruise. Block: top gear at cruise. Dashed: as it is.</p>
    </figure>
    <figure>
      <figcaption class="label-text">{gearing.name}: wheel force and what the road asks</figcaption>
      <ForceChart {gearing} {compared} speed={units.speed} force={units.force} {most_kmh} />
      <p class="quiet text-sm">
        Dotted: what level ground and grades ask. Full throttle, from the torque points given.
      </p>
    </figure>
  </div>
  <details>
    <summary class="min-h-touch cursor-pointer py-2 font-semibold">{gearing.name} as a table</summary>
    <div class="relative overflow-x-auto" tabindex="-1">
      <table class="w-full min-w-[32rem]">
        <thead
          ><tr class="quiet text-left"
            ><th scope="col">Gear</th><th scope="col">Total ratio</th><th scope="col">At idle</th><th
              scope="col">At {inputs.engine.redline_rpm.toFixed(0)} rpm</th
            ><th scope="col">rpm at cruise</th><th scope="col">Grade at cruise</th><th scope="col"
              >After the upshift</th
            ></tr
          ></thead
        >
        <tbody>
          {#each gearing.gears as gear, index (index)}
            <tr class="border-line border-t">
              <th scope="row" class="py-1 text-left">{index + 1}</th>
              <td>{gear.ratio.toFixed(2)}</td>
              <td>{told(gear.idle_kmh, units.speed, 1)}</td>
              <td>{told(gear.redline_kmh, units.speed)}</td>
              <td>{gear.cruise_rpm.toFixed(0)}</td>
              <td>{gear.cruise_grade_pct === null ? "–" : `${gear.cruise_grade_pct.toFixed(1)} %`}</td>
              <td>{gear.rpm_after === null ? "" : `${gear.rpm_after.toFixed(0)} rpm`}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  </details>
  <div class="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 lg:grid-cols-2">
    <TyreDrawing now={answer.tyre_now} planned={answer.tyre_planned} size={units.size} />
    <section aria-label="Speedometer">
      <h2>Speedometer</h2>
      {#if card}
        <p class="figure mt-1 text-2xl">
          Shows {told(100 / units.speed.per, units.speed)}, goes {told(
            card.true_kmh / units.speed.per,
            units.speed,
            1,
          )}
        </p>
        <p>
          {#if inputs.speedometer.source === "wheel"}Pulses at the wheel: the axle ratio does not matter.{/if}
          To show the truth the pulses are multiplied by <strong>{card.pulse_factor.toFixed(3)}</strong>.
        </p>
        {#each card.driven_gears as gear, index (gear.teeth)}
          <p>
            Driven gear with {gear.teeth} teeth: shows {((gear.shown_over_true - 1) * 100).toFixed(1)} % too
            {gear.shown_over_true >= 1 ? "much" : "little"}{index === 0
              ? ""
              : ", which is not allowed on the road"}.
          </p>
        {/each}
        {#each card.reasons as reason (reason.code)}<p
            class={[reason.code === "under_reads" && "border-out border-l-4 pl-3"]}
          >
            {reason.text}
          </p>{/each}
      {:else}
        <p>As it is. Pick a plan above to see what it does to the speedometer.</p>
      {/if}
    </section>
  </div>
{/if}
