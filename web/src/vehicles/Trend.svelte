<script lang="ts">
  import { trend } from "./as-left";
  import type { Schemas } from "../api/client";

  interface Props {
    what: string;
    /** the latest visit first */
    cells: (Schemas["LeftLineOut"] | null)[];
  }
  let { what, cells }: Props = $props();
  const WIDE = 120;
  const HIGH = 32;
  const points = $derived(trend(cells));
  const x = (at: number) => 6 + (at * (WIDE - 12)) / Math.max(points.length - 1, 1);
  const y = (height: number) => HIGH - 6 - height * (HIGH - 12);
</script>

{#if points.length > 1}
  <svg
    width={WIDE}
    height={HIGH}
    viewBox={`0 0 ${WIDE} ${HIGH}`}
    role="img"
    aria-label={`${what} over the visits: ${points.map((one) => `${one.found ? "found" : "left"} ${one.said}`).join(", ")}`}
  >
    <polyline
      points={points.map((one, at) => `${x(at)},${y(one.height)}`).join(" ")}
      fill="none"
      stroke="currentColor"
      stroke-width="1.5"
    />
    {#each points as one, at (at)}
      <circle
        cx={x(at)}
        cy={y(one.height)}
        r="3.5"
        stroke="currentColor"
        stroke-width="1.5"
        class={one.found ? "fill-base-100" : "fill-current"}
      />
    {/each}
  </svg>
{/if}
