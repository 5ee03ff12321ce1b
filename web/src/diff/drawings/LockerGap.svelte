<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"locker.gap">;
    answer: Answered<"locker.gap">;
  }
  let { question, answer }: Props = $props();
  /** px for a millimetre: the gap is the thing to be seen */
  const per = $derived(Math.min(20, 120 / Math.max(question.max_mm, answer.greatest_mm, 1)));
  const first = $derived(question.readings_mm[0] ?? answer.mean_mm);
  const second = $derived(question.readings_mm[1] ?? answer.mean_mm);
  const fitted = $derived(question.washers === "fitted");
  const washer = $derived((question.washer_mm ?? 0.8) * per);
  const top = $derived((first * per) / 2);
  const low = $derived((second * per) / 2);
</script>

<svg
  viewBox="-230 -118 460 246"
  class="block max-h-72 w-full"
  role="img"
  aria-label="The two halves of the locker with the gap between them, true to scale"
>
  {#each [-1, 1] as side (side)}
    <g transform={`scale(${side} 1)`}>
      <path
        d={`M${top} -90L${low} 90H96V-90Z`}
        class="fill-base-300"
        stroke="currentColor"
        stroke-width="2"
      />
      {#if question.washers !== "left_out"}
        <rect x="98" y="-64" width={washer} height="128" fill="currentColor" opacity={fitted ? 1 : 0.35} />
      {/if}
      <path d={`M${104 + washer} -100v200h70v-200z`} class="fill-base-200" stroke="currentColor" />
    </g>
  {/each}
  <rect
    x={(-question.min_mm * per) / 2}
    y="-108"
    width={question.min_mm * per}
    height="10"
    class="fill-in"
    opacity=".6"
  />
  <path
    d={`M${(-question.max_mm * per) / 2} -108v10M${(question.max_mm * per) / 2} -108v10`}
    stroke="currentColor"
    stroke-width="2"
  />
  <circle r="15" class="fill-base-100" stroke="currentColor" stroke-width="2" />
  <path d="M-8 0H8M0 -8V8" stroke="currentColor" />
  <text y="-72" text-anchor="middle" class="fill-current text-sm">{first.toFixed(2)}</text>
  <text y="82" text-anchor="middle" class="fill-current text-sm">{second.toFixed(2)}</text>
  <text y="120" text-anchor="middle" class="fill-current text-xs"
    >bar above: least of the window; ticks: most</text
  >
</svg>
