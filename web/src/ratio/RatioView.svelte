<script lang="ts">
  import type { Schemas } from "../api/client";
  import type { LengthUnit } from "../lib/quantity";
  import GearingRows from "./GearingRows.svelte";
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
</script>

{#if compared && gearing}
  {#each answer.feel ?? [] as text, index (text)}<p class={index === 0 ? "figure text-2xl" : "text-lg"}>
      {text}
    </p>{/each}
  <div class="mt-2 grid grid-cols-[minmax(0,1fr)] gap-6 xl:grid-cols-2">
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
      <p class="quiet text-sm">Band: wanted at cruise. Block: top gear at cruise. Dashed: as it is now.</p>
    </figure>
    <figure>
      <figcaption class="label-text">{gearing.name}: wheel force and road load</figcaption>
      <ForceChart {gearing} {compared} speed={units.speed} force={units.force} {most_kmh} />
      <p class="quiet text-sm">
        Dotted: force needed on level ground and on grades. Full throttle, from the torque points entered.
      </p>
    </figure>
  </div>
  {#if gearing.better.length + gearing.worse.length > 0}
    <p class="mt-2">
      <strong>{gearing.name}, compared with now:</strong>
      {#each gearing.better as text (text)}<span class="block"
          ><span class="text-in font-bold">+</span> {text}</span
        >{/each}
      {#each gearing.worse as text (text)}<span class="block"
          ><span class="text-out font-bold">−</span> {text}</span
        >{/each}
    </p>
  {/if}
  <h2 class="mt-4 mb-1">Compared</h2>
  <GearingRows
    {inputs}
    {gearings}
    meters={gearings.map((_, index) => (gearings.length > 1 ? meter(index) : null))}
    {shown}
    {firstCandidate}
    {most_kmh}
    {units}
    onpick={(index) => (picked = index)}
    {onremove}
  />
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
          To read true, multiply the pulses by <strong>{card.pulse_factor.toFixed(3)}</strong>.
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
        <p>As it is. Choose a plan above to see what it does to the speedometer.</p>
      {/if}
    </section>
  </div>
{/if}
