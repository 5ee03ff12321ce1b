<script lang="ts">
  import type { Schemas } from "../api/client";
  import { told, type Quantity, type Unit } from "../lib/units";
  import { saw } from "./saw";

  type Shown = Schemas["GearingShown"];
  interface Props {
    inputs: Schemas["RatioInputs"];
    gearings: Shown[];
    /** the speedometer that belongs to each, where something changes */
    meters: (Schemas["Speedometer"] | null)[];
    shown: number;
    /** the first that can be taken away */
    firstCandidate: number;
    most_kmh: number;
    units: Record<Quantity, Unit>;
    onpick: (index: number) => void;
    onremove: ((candidate: number) => void) | null;
  }
  let { inputs, gearings, meters, shown, firstCandidate, most_kmh, units, onpick, onremove }: Props =
    $props();
  const WIDE = 120;
  const HIGH = 34;
  const x = (kmh: number) => (Math.min(kmh, most_kmh) / most_kmh) * WIDE;
  const y = (rpm: number) => HIGH - 2 - (rpm / inputs.engine.redline_rpm) * (HIGH - 4);
  const cruise = $derived(told(inputs.use.cruise_kmh, units.speed));

  function figures(one: Shown, meter: Schemas["Speedometer"] | null) {
    const held = one.gears.map((gear) => gear.cruise_grade_pct).filter((grade) => grade !== null);
    return [
      {
        name: `rpm at ${cruise}`,
        value: (one.gears.at(-1)?.cruise_rpm ?? 0).toFixed(0),
        note: one.cruise_band,
      },
      { name: "Holds", value: held.length > 0 ? `${Math.max(...held).toFixed(1)} %` : "–" },
      {
        name: "Starts on",
        value: one.start_grade_pct === null ? "–" : `${one.start_grade_pct.toFixed(0)} %`,
      },
      { name: "Top speed", value: one.top_kmh === null ? "–" : told(one.top_kmh, units.speed) },
      { name: "Crawls at", value: told(one.creep_kmh, units.speed, 1) },
      ...(meter
        ? [
            {
              name: `Shown ${told(100 / units.speed.per, units.speed)}`,
              value: told(meter.true_kmh / units.speed.per, units.speed, 1),
              wrong: meter.shown_over_true < 1 ? "under-reads" : "",
            },
          ]
        : []),
    ];
  }
</script>

<ul class="grid">
  {#each gearings as one, index (index)}
    <li
      class={[
        "border-line grid grid-cols-[minmax(0,1fr)_7.5rem_auto] items-center gap-x-3 border-t py-1.5 sm:grid-cols-[11rem_7.5rem_minmax(0,1fr)_auto]",
        index === shown && "bg-base-200",
      ]}
    >
      <button
        class={[
          "figure min-h-touch border-l-4 pl-2 text-left text-lg",
          index === shown ? "border-base-content" : "border-transparent",
        ]}
        aria-pressed={index === shown}
        onclick={() => onpick(index)}>{one.name}</button
      >
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} class="h-9 w-full" aria-hidden="true">
        <rect
          x="0"
          width={WIDE}
          y={y(inputs.use.cruise_rpm_max)}
          height={Math.max(y(inputs.use.cruise_rpm_min) - y(inputs.use.cruise_rpm_max), 1)}
          class="fill-base-300"
        />
        <path d={`M${x(inputs.use.cruise_kmh)} 0V${HIGH}`} stroke="currentColor" stroke-dasharray="2 2" />
        <path d={saw(one, inputs.engine, x, y)} fill="none" stroke="currentColor" stroke-width="1.8" />
      </svg>
      <dl class="flex flex-wrap gap-x-5 gap-y-0.5 max-sm:order-last max-sm:col-span-3 max-sm:text-sm">
        {#each figures(one, meters[index] ?? null) as figure (figure.name)}
          <div class="max-sm:flex max-sm:gap-1" title={figure.note ?? ""}>
            <dt class="quiet text-sm whitespace-nowrap">{figure.name}</dt>
            <dd class="font-semibold whitespace-nowrap">
              {figure.value}
              {#if figure.wrong}<strong class="text-out">{figure.wrong}</strong>{/if}
            </dd>
          </div>
        {/each}
      </dl>
      {#if onremove && index >= firstCandidate}
        <button class="btn btn-plain btn-sm" onclick={() => onremove(index - firstCandidate)}
          >Remove<span class="sr-only"> {one.name}</span></button
        >
      {:else}<span></span>{/if}
    </li>
  {/each}
</ul>
