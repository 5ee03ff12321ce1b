<script lang="ts">
  import type { Schemas } from "../api/client";
  import Axes from "../lib/Axes.svelte";
  import { BOX, line, plot } from "../lib/plot";
  import type { Unit } from "../lib/units";
  import { topHz } from "./chart";

  interface Props {
    answer: Schemas["RecordedAnswer"];
    shown: string[];
    speed: Unit;
  }
  let { answer, shown, speed }: Props = $props();
  const chart = $derived(answer.chart);
  const most = $derived(topHz(chart, answer.lines));
  const points = $derived(
    chart.frequency_hz
      .map((x, index) => ({ x, y: chart.amplitude[index] ?? 0 }))
      .filter((one) => one.x <= most && one.x >= 1),
  );
  const highest = $derived(Math.max(...points.map((one) => one.y), 0.01) * 1.25);
  const scale = $derived(plot(most, highest));
  const lines = $derived(
    answer.lines.filter((one) => shown.includes(one.name) && one.at_reference_hz <= most),
  );
  const at = $derived(`${(chart.reference_kmh * speed.per).toFixed(0)} ${speed.name}`);
  const label = $derived(
    `Spectrum scaled to ${at}. Peaks: ` +
      answer.peaks.map((one) => `${one.hz.toFixed(1)} hertz, ${one.words}`).join("; "),
  );
</script>

<svg
  viewBox={`0 0 ${BOX.width} ${BOX.height}`}
  class="block w-full"
  role="img"
  aria-label={label}
  data-drawing="spectrum"
>
  <Axes
    chart={scale}
    xName={`Hz, scaled to ${at}`}
    yName="peak acceleration, m/s²"
    yDigits={highest < 1 ? 2 : 1}
  />
  {#each lines as one (one.name)}
    <path
      d={`M${scale.x(one.at_reference_hz * answer.speed_scale)} ${BOX.top}V${BOX.height - BOX.bottom}`}
      stroke="var(--color-secondary)"
      stroke-width="1.2"
      stroke-dasharray="7 5"
    />
  {/each}
  <path d={line(points, scale)} fill="none" stroke="currentColor" stroke-width="1.8" />
  {#each answer.peaks.filter((one) => one.hz <= most).slice(0, 5) as peak (peak.hz)}
    <text
      x={Math.min(scale.x(peak.hz), BOX.width - 60)}
      y={scale.y(peak.amplitude) - 7}
      text-anchor="middle"
      class="figure"
      font-size="16"
      fill="currentColor">{peak.hz.toFixed(1)}</text
    >
  {/each}
</svg>
