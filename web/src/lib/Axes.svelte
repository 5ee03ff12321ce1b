<script lang="ts">
  import { BOX, type Plot } from "../lib/plot";

  interface Props {
    chart: Plot;
    xName: string;
    yName: string;
    yDigits?: number;
  }
  let { chart, xName, yName, yDigits = 0 }: Props = $props();
</script>

{#each chart.yTicks as tick (tick)}
  <path
    d={`M${BOX.left} ${chart.y(tick)}H${BOX.width - BOX.right}`}
    stroke="currentColor"
    stroke-width=".8"
    opacity=".16"
  />
  <text
    x={BOX.left - 6}
    y={chart.y(tick) + 5}
    text-anchor="end"
    class="figure"
    font-size="15"
    fill="currentColor">{tick.toFixed(yDigits)}</text
  >
{/each}
{#each chart.xTicks as tick (tick)}
  <text
    x={chart.x(tick)}
    y={BOX.height - BOX.bottom + 18}
    text-anchor="middle"
    class="figure"
    font-size="15"
    fill="currentColor">{tick}</text
  >
{/each}
<path
  d={`M${BOX.left} ${BOX.top}V${BOX.height - BOX.bottom}H${BOX.width - BOX.right}`}
  fill="none"
  stroke="currentColor"
  stroke-width="1.5"
/>
<g class="label-text" font-size="15" fill="currentColor">
  <text x={BOX.width - BOX.right} y={BOX.height - 6} text-anchor="end">{xName}</text>
  <text x={BOX.left + (BOX.width - BOX.left - BOX.right) / 2} y={BOX.top - 1} text-anchor="middle"
    >{yName}</text
  >
</g>
