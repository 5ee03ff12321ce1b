<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"fit.land">;
    answer: Answered<"fit.land">;
    /** where things lie, from the outer edge [mm]; only with the width of the surface */
    beside: { width_mm?: number; groove_at_mm?: number; pits?: { at_mm: number }[] };
  }
  let { question, answer, beside }: Props = $props();
  const LEFT = 20;
  const RIGHT = 420;
  const HALF_GROOVE = 22;
  const wide = $derived(beside.width_mm && beside.width_mm > 0 ? beside.width_mm : null);
  /** px along the surface; null for what lies beyond it */
  const along = (mm: number) =>
    wide !== null && mm >= 0 && mm <= wide ? LEFT + (mm / wide) * (RIGHT - LEFT) : null;
  const middle = $derived(
    Math.min(
      Math.max(
        (beside.groove_at_mm === undefined ? null : along(beside.groove_at_mm)) ?? 220,
        LEFT + HALF_GROOVE,
      ),
      RIGHT - HALF_GROOVE,
    ),
  );
  const told = $derived((beside.pits ?? []).flatMap((one) => along(one.at_mm) ?? []));
  const pits = $derived(
    told.length > 0
      ? told
      : question.pitted
        ? [-70, -52, -36, 32, 50, 71].map((x) => middle + x).filter((x) => x > LEFT && x < RIGHT)
        : [],
  );
  /** px for a millimetre of depth; along the surface it is to scale once its width is known */
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
  <text x="20" y="52" class="fill-out text-xs">dotted: a seal takes up no more</text>
  <path
    d={`M20 ${60 + under}H${middle - 24}q4 0 8 ${groove / 2}t16 ${groove / 2}t16 ${-groove / 2}t8 ${-groove / 2}H420V196H20Z`}
    class="fill-base-300"
    fill-opacity=".8"
    stroke="currentColor"
    stroke-width="2"
  />
  {#each pits as x, index (`${x} ${index}`)}<circle
      cx={x}
      cy={64 + under + (index % 2) * 3}
      r={3 + (index % 3)}
      class="fill-base-100"
      stroke="currentColor"
    />{/each}
  {#if band > 0}
    <rect x={middle + 42} y={52 + under} width={band} height="8" class="fill-in" />
    <text x={middle + 42} y={46 + under} class="fill-current text-xs"
      >good metal {question.clean_band_mm} mm</text
    >
  {/if}
  <path d={`M${middle - 14} 18l14 34l14-34z`} fill="currentColor" />
  <text x={middle} y="14" text-anchor="middle" class="fill-current text-xs">seal lip</text>
  <text x="220" y="208" text-anchor="middle" class="fill-current text-xs"
    >{wide === null ? "along the surface not to scale" : `${wide} mm wide, outer edge on the left`}; depth
    enlarged {Math.round(wide === null ? DEEP / 4 : DEEP / ((RIGHT - LEFT) / wide))} times{question.groove_mm
      ? `; groove ${question.groove_mm.toFixed(2)} mm`
      : ""}</text
  >
</svg>
