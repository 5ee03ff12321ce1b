<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"nut.castle">;
    answer: Answered<"nut.castle">;
  }
  let { question, answer }: Props = $props();
  const slots = $derived(
    Array.from({ length: question.slots }, (_, index) => (360 / question.slots) * index),
  );
  const holes = $derived(
    Array.from({ length: question.holes }, (_, index) => (180 / question.holes) * index),
  );
  const turn = $derived(((answer.back_positions ?? 0) * 360) / answer.positions_per_turn);
  const arc = $derived.by(() => {
    const shown = Math.max(-170, Math.min(170, -turn));
    const end = ((shown - 90) * Math.PI) / 180;
    return `M0 -112A112 112 0 0 ${shown >= 0 ? 1 : 0} ${112 * Math.cos(end)} ${112 * Math.sin(end)}`;
  });
</script>

<svg
  viewBox="-130 -130 260 264"
  class="block max-h-72 w-full"
  role="img"
  aria-label={answer.back_positions === null
    ? "No position fits"
    : `Nut turned by ${answer.back_positions} positions`}
>
  <g transform={`rotate(${-turn})`}>
    <circle r="92" class="fill-base-300" stroke="currentColor" stroke-width="2" />
    {#each slots as angle (angle)}<rect
        x="-7"
        y="-95"
        width="14"
        height="26"
        class="fill-base-100"
        stroke="currentColor"
        transform={`rotate(${angle})`}
      />{/each}
    <path d="M0 -66v14" stroke="currentColor" stroke-width="4" />
  </g>
  <circle r="48" class="fill-base-100" stroke="currentColor" stroke-width="2" />
  {#each holes as angle (angle)}<path
      d="M0 -46V46"
      stroke="currentColor"
      stroke-width="6"
      opacity=".35"
      transform={`rotate(${angle})`}
    />{/each}
  {#if answer.back_positions}
    <path d={arc} fill="none" stroke="currentColor" stroke-width="3" />
    <text y="130" text-anchor="middle" class="fill-current text-sm"
      >{answer.back_positions > 0 ? "looser" : "tighter"} by {Math.abs(turn).toFixed(0)}°</text
    >
  {/if}
</svg>
