<script lang="ts" module>
  /** What is held against a window: readings, and limits where they are known. */
  export interface Bar {
    values: { word: string; value: number }[];
    min: number | null;
    max: number | null;
    unit: string;
  }
</script>

<script lang="ts">
  interface Props {
    bar: Bar;
  }
  let { bar }: Props = $props();
  const all = $derived([
    ...bar.values.map((one) => one.value),
    ...(bar.min === null ? [] : [bar.min]),
    ...(bar.max === null ? [] : [bar.max]),
  ]);
  const low = $derived(Math.min(0, ...all));
  const high = $derived(Math.max(...all, low + 1e-6));
  const x = (value: number) => 24 + (392 * (value - low)) / ((high - low) * 1.12);
  const word = (value: number) => (Math.abs(value) < 10 ? value.toFixed(2) : value.toFixed(0));
</script>

<svg
  viewBox={`0 0 440 ${64 + 22 * bar.values.length}`}
  class="block max-h-56 w-full"
  role="img"
  aria-label={bar.values.map((one) => `${one.word} ${word(one.value)} ${bar.unit}`).join(", ")}
>
  {#if bar.min !== null || bar.max !== null}
    {@const from = bar.min === null ? x(low) : x(bar.min)}
    {@const to = bar.max === null ? 436 : x(bar.max)}
    <rect
      x={from}
      y="22"
      width={Math.max(to - from, 3)}
      height={14 + 22 * bar.values.length}
      class="fill-in"
      opacity=".28"
    />
    {#if bar.min !== null}<text x={from} y="16" text-anchor="middle" class="fill-current text-xs"
        >{word(bar.min)}</text
      >{/if}
    {#if bar.max !== null}<text x={to} y="16" text-anchor="middle" class="fill-current text-xs"
        >{word(bar.max)}</text
      >{/if}
  {/if}
  {#each bar.values as one, index (one.word)}
    {@const y = 32 + index * 22}
    <path
      d={`M${x(Math.min(0, one.value))} ${y}H${x(Math.max(0, one.value))}`}
      stroke="currentColor"
      stroke-width="7"
      opacity=".35"
    />
    <path d={`M${x(one.value)} ${y - 9}v18`} stroke="currentColor" stroke-width="4" />
    <text
      x={x(one.value) > 300 ? x(one.value) - 8 : x(one.value) + 8}
      text-anchor={x(one.value) > 300 ? "end" : "start"}
      y={y + 5}
      class="fill-current text-sm"
      paint-order="stroke"
      stroke="var(--color-base-100)"
      stroke-width="4">{one.word} {word(one.value)}</text
    >
  {/each}
  <path d={`M24 ${44 + 22 * bar.values.length}H430`} stroke="currentColor" stroke-width="2" />
  <text x="430" y={60 + 22 * bar.values.length} text-anchor="end" class="fill-current text-xs"
    >{bar.unit}</text
  >
</svg>
