<script lang="ts">
  import type { Schemas } from "../api/client";
  import { shim, stack, type LengthUnit } from "../lib/quantity";

  interface Props {
    pieces: Schemas["PieceOut"][];
    unit: LengthUnit;
  }
  let { pieces, unit }: Props = $props();
  const HIGH = 34;
  /** Thin shims between thick ones: the two thickest lie outside, where nothing can curl an edge. */
  const laid = $derived.by(() => {
    const thick = pieces
      .flatMap((one) => Array.from({ length: one.count }, () => one.thickness_mm))
      .sort((a, b) => b - a);
    const [first, second, ...rest] = thick;
    return [first, ...rest, second].filter((one) => one !== undefined);
  });
  const bars = $derived.by(() => {
    let x = 1;
    return laid.map((mm) => {
      const wide = Math.min(Math.max(mm * 26, 4), 44);
      const bar = { x, wide, mm };
      x += wide + 2;
      return bar;
    });
  });
  const width = $derived((bars.at(-1)?.x ?? 0) + (bars.at(-1)?.wide ?? 0) + 1);
</script>

{#if bars.length > 1}
  <svg
    {width}
    height={HIGH}
    viewBox={`0 0 ${width} ${HIGH}`}
    class="block max-w-full"
    role="img"
    aria-label={`Order: ${laid.map((mm) => shim(mm, unit)).join(", ")}; thin shims between thick ones`}
  >
    {#each bars as bar, index (index)}
      <rect
        x={bar.x}
        y="2"
        width={bar.wide}
        height={HIGH - 4}
        class="fill-base-300"
        stroke="currentColor"
        stroke-width="1.5"
      />
    {/each}
  </svg>
{/if}
<span class="text-sm">{stack(pieces, unit)}</span>
