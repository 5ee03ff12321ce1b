<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"fit.land">;
    answer: Answered<"fit.land">;
  }
  let { question, answer }: Props = $props();
  /** px for a millimetre of depth; along the surface nothing is to scale */
  const DEEP = 160;
  const under = $derived(Math.min((answer.undersize_mm / 2) * DEEP, 40));
  const groove = $derived(Math.min((question.groove_mm ?? 0) * DEEP, 90));
  const band = $derived(Math.min((question.clean_band_mm ?? 0) * 16, 120));
  const limit = $derived(Math.min(((question.max_undersize_mm ?? 0.1) / 2) * DEEP, 40));
</script>

<svg
  viewBox="0 0 440 214"
  class="block max-h-64 w-full"
  role="img"
  aria-label="The seal surface in profile, depth enlarged"
>
  <path d="M20 60H420" stroke="currentColor" stroke-dasharray="5 4" />
  <text x="420" y="52" text-anchor="end" class="fill-current text-xs">when new</text>
  <path d={`M20 ${60 + limit}H420`} class="text-out" stroke="currentColor" stroke-dasharray="2 4" />
  <text x="20" y={54 + limit} class="fill-out text-xs">a seal takes up no more</text>
  <path
    d={`M20 ${60 + under}H196q4 0 8 ${groove / 2}t16 ${groove / 2}t16 ${-groove / 2}t8 ${-groove / 2}H420V196H20Z`}
    class="fill-base-300"
    fill-opacity=".8"
    stroke="currentColor"
    stroke-width="2"
  />
  {#if question.pitted}
    {#each [150, 168, 184, 252, 270, 291] as x, index (x)}<circle
        cx={x}
        cy={64 + under + (index % 2) * 3}
        r={3 + (index % 3)}
        class="fill-base-100"
        stroke="currentColor"
      />{/each}
  {/if}
  {#if band > 0}
    <rect x="262" y={52 + under} width={band} height="8" class="fill-in" />
    <text x="262" y={46 + under} class="fill-current text-xs">good metal {question.clean_band_mm} mm</text>
  {/if}
  <path d="M206 18l14 34l14-34z" fill="currentColor" />
  <text x="220" y="14" text-anchor="middle" class="fill-current text-xs">seal lip</text>
  <text x="220" y="208" text-anchor="middle" class="fill-current text-xs"
    >depth enlarged {DEEP / 4} times{question.groove_mm
      ? `; groove ${question.groove_mm.toFixed(2)} mm`
      : ""}</text
  >
</svg>
