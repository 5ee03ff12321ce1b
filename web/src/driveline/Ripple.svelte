<script lang="ts">
  import type { Schemas } from "../api/client";
  import Axes from "../lib/Axes.svelte";
  import { BOX, line, plot } from "../lib/plot";

  interface Props {
    turn: Schemas["Turn"];
    before?: Schemas["Turn"] | null;
    /** unevenness of the last member, ± % */
    uneven: number;
  }
  let { turn, before = null, uneven }: Props = $props();
  const DASHES = ["none", "7 4", "2 4", "9 3 2 3"];
  const members = $derived(turn.speed_ratio.slice(1));
  const names = $derived(
    members.map((_, index) => (index === members.length - 1 ? "pinion" : `shaft ${index + 1}`)),
  );
  const most = $derived(
    Math.max(
      0.2,
      ...[...members, ...(before?.speed_ratio.slice(1) ?? [])].flat().map((one) => 100 * Math.abs(one - 1)),
    ) * 1.15,
  );
  const chart = $derived(plot(360, most, 0, BOX, -most));
  const path = (ratios: number[]) =>
    line(
      ratios.map((one, index) => ({ x: turn.theta_deg[index] ?? 0, y: 100 * (one - 1) })),
      chart,
    );
  const label = $derived(
    `Speed over one turn of the output. The pinion runs up to ${uneven.toFixed(2)} % ahead. ` +
      members
        .map((one, index) => `${names[index] ?? ""} swings by ${(100 * (Math.max(...one) - 1)).toFixed(2)} %`)
        .join("; "),
  );
</script>

<svg viewBox={`0 0 ${BOX.width} ${BOX.height}`} class="block w-full" role="img" aria-label={label}>
  <Axes {chart} xName="turn of the driver, degrees" yName="faster or slower than the driver, %" yDigits={1} />
  <path d={`M${BOX.left} ${chart.y(0)}H${BOX.width - BOX.right}`} stroke="currentColor" stroke-width="1" />
  {#if before}
    <path
      d={path(before.speed_ratio.at(-1) ?? [])}
      fill="none"
      stroke="currentColor"
      stroke-width="1.2"
      opacity=".55"
    />
  {/if}
  {#each members as one, index (index)}
    {@const last = index === members.length - 1}
    {@const peak = one.indexOf(Math.max(...one.slice(40, 240)), 40)}
    <path
      d={path(one)}
      fill="none"
      stroke="currentColor"
      stroke-width={last ? 3 : 1.8}
      stroke-dasharray={last ? "none" : (DASHES[index + 1] ?? "none")}
    />
    <text
      x={chart.x(turn.theta_deg[peak] ?? 0)}
      y={chart.y(100 * ((one[peak] ?? 1) - 1)) - 6}
      text-anchor="middle"
      class="figure"
      font-size="16"
      fill="currentColor">{names[index]}</text
    >
  {/each}
</svg>
