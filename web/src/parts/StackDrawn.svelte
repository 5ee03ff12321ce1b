<script lang="ts">
  import { length, type LengthUnit } from "../lib/quantity";

  interface Props {
    stack: { entered: string; mm: number; damaged: boolean }[];
    unit: LengthUnit;
  }
  let { stack, unit }: Props = $props();
  const HIGH = 44;
  const bars = $derived.by(() => {
    let x = 14;
    return stack.map((one) => {
      const wide = Math.min(Math.max(one.mm * 18, 4), 40);
      const bar = { x, wide, ...one };
      x += wide + 3;
      return bar;
    });
  });
  const width = $derived((bars.at(-1)?.x ?? 14) + (bars.at(-1)?.wide ?? 0) + 4);
  const total = $derived(stack.reduce((sum, one) => sum + one.mm, 0));
  const told = $derived(stack.map((one) => `${one.entered}${one.damaged ? ", damaged" : ""}`).join(" + "));
</script>

<figure class="grid gap-1">
  <svg
    {width}
    height={HIGH}
    viewBox={`0 0 ${width} ${HIGH}`}
    class="block max-w-full"
    role="img"
    aria-label={`Stack as it lay, outermost first: ${told}`}
  >
    <path d={`M3 4v${HIGH - 8}`} stroke="currentColor" stroke-width="3" />
    {#each bars as bar, index (index)}
      <rect
        x={bar.x}
        y="3"
        width={bar.wide}
        height={HIGH - 6}
        class={bar.damaged ? "fill-base-100" : "fill-base-300"}
        stroke="currentColor"
        stroke-width="1.5"
        stroke-dasharray={bar.damaged ? "4 3" : undefined}
      />
      {#if bar.damaged}<path
          d={`M${bar.x} ${HIGH - 4} l${bar.wide} ${8 - HIGH}`}
          stroke="currentColor"
          stroke-width="1.5"
        />{/if}
    {/each}
  </svg>
  <figcaption class="text-sm">
    {told} = <strong>{length(total, unit)}</strong>
  </figcaption>
</figure>
