<script lang="ts">
  import type { Bench } from "../api/client";

  interface Props {
    bench: Bench;
    values: number[];
  }
  let { bench, values }: Props = $props();
  const low = $derived(bench.min_mm ?? 0);
  const high = $derived(bench.max_mm ?? low + 0.1);
  const width = $derived(Math.max(high - low, 0.02));
  const x = (mm: number) => 6 + Math.min(Math.max((mm - low + width) / (3 * width), 0), 1) * 288;
</script>

<!-- the window, and every reading as a stroke in it -->
{#if bench.min_mm !== null && bench.max_mm !== null}
  <svg viewBox="0 0 300 16" class="block h-4 w-full" preserveAspectRatio="none" aria-hidden="true">
    <rect x={x(low)} y="3" width={x(high) - x(low)} height="10" class="fill-base-300" />
    <path d={`M${x(low)} 0v16M${x(high)} 0v16`} stroke="currentColor" stroke-width="1.5" />
    <path d="M0 8h300" stroke="currentColor" stroke-width=".8" opacity=".5" />
    {#each values as value, index (index)}
      <path
        d={`M${x(value)} 2v12`}
        class={value < low - 1e-9 || value > high + 1e-9 ? "stroke-out" : "stroke-base-content"}
        stroke-width="2.5"
      />
    {/each}
  </svg>
{/if}
