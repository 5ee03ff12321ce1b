<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"fit.press">;
    answer: Answered<"fit.press">;
  }
  let { question, answer }: Props = $props();
  const per = $derived(96 / question.hub_outer_mm);
  const shaft = $derived(question.shaft_mm * per);
  const bore = $derived(question.bore_mm * per);
  /** the interference is drawn as wide as a finger */
  const ENLARGED = 14;
  const times = $derived(
    answer.interference_mm > 0 ? Math.round(ENLARGED / (answer.interference_mm * per)) : 0,
  );
  const loose = $derived(answer.interference_mm <= 0);
</script>

<svg
  viewBox="-220 -118 440 236"
  class="block max-h-72 w-full"
  role="img"
  aria-label="Cross section of the fit, the interference enlarged"
>
  <defs>
    <pattern id="cut" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path d="M0 0v7" stroke="currentColor" stroke-width="1" />
    </pattern>
  </defs>
  <g transform="translate(-110 0)">
    <circle r="96" fill="url(#cut)" stroke="currentColor" stroke-width="2" />
    <circle r={bore} class="fill-base-100" stroke="currentColor" stroke-width="1.5" />
    <circle r={shaft} class="fill-base-300" stroke="currentColor" stroke-width="1.5" />
    <circle r={(question.shaft_bore_mm ?? 0) * per} class="fill-base-100" stroke="currentColor" />
    <text y="112" text-anchor="middle" class="fill-current text-xs">true to scale</text>
  </g>
  <g transform="translate(112 0)">
    <rect x="-80" y="-92" width="160" height="58" fill="url(#cut)" stroke="currentColor" stroke-width="2" />
    <rect
      x="-80"
      y={loose ? -28 : -34 - ENLARGED}
      width="160"
      height="110"
      class={loose ? "fill-base-300" : "fill-base-300"}
      fill-opacity=".75"
      stroke="currentColor"
      stroke-width="2"
    />
    {#if !loose}
      <rect x="-80" y={-34 - ENLARGED} width="160" height={ENLARGED} class="fill-next" opacity=".8" />
    {/if}
    <text y="-66" text-anchor="middle" class="fill-current text-sm">hub</text>
    <text y="40" text-anchor="middle" class="fill-current text-sm">shaft</text>
    <text y="112" text-anchor="middle" class="fill-current text-xs"
      >{loose ? "gap, enlarged" : `interference enlarged ${times} times`}</text
    >
  </g>
</svg>
