<script lang="ts">
  import type { Schemas } from "../api/client";
  import type { Unit } from "../lib/units";
  import { BOX, cells, chartPlot, labels, topHz } from "./chart";

  interface Props {
    answer: Schemas["RecordedAnswer"];
    shown: string[];
    speed: Unit;
  }
  let { answer, shown, speed }: Props = $props();
  const chart = $derived(answer.chart);
  const most = $derived(topHz(chart, answer.lines));
  const scale = $derived(chartPlot(chart, most, speed.per));
  const painted = $derived(cells(chart, scale, most, speed.per));
  const ends = $derived([chart.speed_edges_kmh[0] ?? 0, chart.speed_edges_kmh.at(-1) ?? 0]);
  const first = $derived(answer.sources[0]?.name ?? null);
  const lines = $derived(
    answer.lines
      .filter((one) => shown.includes(one.name))
      .map((one) => {
        const at = ends.map((kmh) => one.hz_per_kmh * kmh);
        const steady = one.hz_per_kmh === 0;
        return {
          name: one.name,
          from: steady ? one.at_reference_hz : (at[0] ?? 0),
          to: steady ? one.at_reference_hz : (at[1] ?? 0),
        };
      })
      .filter((one) => Math.min(one.from, one.to) <= most)
      // the likeliest lies over those that share its place
      .sort((a, b) => Number(a.name === first) - Number(b.name === first)),
  );
  const right = BOX.width - BOX.right;
  const names = $derived(
    labels(
      lines.map((one) => ({ name: one.name, y: scale.y(Math.min(one.to, most)) })),
      17,
    ),
  );
  const tidy = (name: string) =>
    name.replaceAll("_", " ").replace("1x", "once").replace("2x", "twice").replace("3x", "three times");
  const label = $derived(
    `Order chart: vibration over road speed and frequency. Strongest: ` +
      answer.peaks
        .slice(0, 4)
        .map(
          (peak) =>
            `${peak.hz.toFixed(1)} hertz at ${(chart.reference_kmh * speed.per).toFixed(0)} ${speed.name}, ${peak.words}`,
        )
        .join("; "),
  );
</script>

<svg
  viewBox={`0 0 ${BOX.width} ${BOX.height}`}
  class="block w-full"
  role="img"
  aria-label={label}
  data-drawing="orders"
>
  <defs
    ><clipPath id="orders-inside"
      ><rect
        x={BOX.left}
        y={BOX.top}
        width={right - BOX.left}
        height={BOX.height - BOX.top - BOX.bottom}
      /></clipPath
    ></defs
  >
  {#each painted as cell, index (index)}
    <rect
      x={cell.x}
      y={cell.y}
      width={cell.width}
      height={cell.height}
      fill="currentColor"
      opacity={0.08 + 0.82 * cell.strength}
    />
  {/each}
  {#each scale.yTicks as tick (tick)}
    <text
      x={BOX.left - 6}
      y={scale.y(tick) + 5}
      text-anchor="end"
      class="figure"
      font-size="15"
      fill="currentColor">{tick}</text
    >
    <path d={`M${BOX.left} ${scale.y(tick)}h-4`} stroke="currentColor" />
  {/each}
  {#each scale.xTicks as tick (tick)}
    <text
      x={scale.x(tick)}
      y={BOX.height - BOX.bottom + 19}
      text-anchor="middle"
      class="figure"
      font-size="15"
      fill="currentColor">{tick}</text
    >
  {/each}
  <g clip-path="url(#orders-inside)">
    {#each lines as one (one.name)}
      {@const d = `M${BOX.left} ${scale.y(one.from)}L${right} ${scale.y(one.to)}`}
      <path {d} stroke="var(--color-base-100)" stroke-width="4" fill="none" opacity=".7" />
      <path
        {d}
        stroke={one.name === first ? "var(--color-error)" : "var(--color-secondary)"}
        stroke-width={one.name === first ? 2.6 : 1.5}
        stroke-dasharray={one.name === first ? "none" : "7 5"}
        fill="none"
      />
    {/each}
  </g>
  {#each names as one (one.name)}
    <text
      x={right + 6}
      y={one.y + 5}
      class={one.name === first ? "figure" : "label-text"}
      font-size="15"
      fill={one.name === first ? "var(--color-error)" : "currentColor"}>{tidy(one.name)}</text
    >
  {/each}
  <path
    d={`M${BOX.left} ${BOX.top}V${BOX.height - BOX.bottom}H${right}`}
    fill="none"
    stroke="currentColor"
    stroke-width="1.5"
  />
  <g class="label-text" font-size="15" fill="currentColor">
    <text x={right} y={BOX.height - 6} text-anchor="end">road speed, {speed.name}</text>
    <text x={BOX.left} y={BOX.top - 8}>frequency, Hz</text>
  </g>
</svg>
