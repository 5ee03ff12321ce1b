<script lang="ts">
  import type { Answered, Asked } from "../answers";
  import type { Row } from "../values";

  interface Props {
    question: Asked<"endplay.shims">;
    answer: Answered<"endplay.shims">;
    trials: Row[];
  }
  let { question, answer, trials }: Props = $props();
  const light = $derived(question.school === "light_preload" && question.rotating_torque_nm != null);
  const value = $derived(light ? (question.rotating_torque_nm ?? 0) : (question.end_play_mm ?? 0));
  const most = $derived(Math.max(question.window.max, value, light ? 0.5 : 0.05) * 1.3);
  const x = (of: number) => 30 + (380 * of) / most;
  /** stack drawn 18 px for a millimetre at the most */
  const per = $derived(Math.min(60, 130 / Math.max(question.stack_mm, answer.stack_mm, 0.5)));
</script>

<svg
  viewBox="0 0 440 200"
  class="block max-h-60 w-full"
  role="img"
  aria-label="The last trial against its window, and the next stack"
>
  <rect
    x={x(question.window.min)}
    y="30"
    width={Math.max(x(question.window.max) - x(question.window.min), 3)}
    height="34"
    class="fill-in"
    opacity=".35"
  />
  <path d="M30 64H420" stroke="currentColor" stroke-width="2" />
  <path d={`M${x(value)} 22v50`} stroke="currentColor" stroke-width="5" />
  <text x={x(value)} y="16" text-anchor="middle" class="fill-current text-sm"
    >{light ? `${value.toFixed(2)} Nm` : `${value.toFixed(2)} mm`}</text
  >
  <text x="30" y="82" class="fill-current text-xs"
    >{light ? "rotating torque" : "end play"} of trial {trials.length}</text
  >
  <text x="30" y="124" class="fill-current text-xs">stack now</text>
  <rect x="110" y="104" width={question.stack_mm * per} height="30" fill="currentColor" />
  <text x={118 + question.stack_mm * per} y="124" class="fill-current text-sm"
    >{question.stack_mm.toFixed(2)}</text
  >
  {#if answer.verdict !== "in"}
    <text x="30" y="170" class="fill-current text-xs">next stack</text>
    <rect
      x="110"
      y="150"
      width={Math.max(answer.stack_mm, 0) * per}
      height="30"
      class="fill-next"
      stroke="currentColor"
    />
    <text x={118 + Math.max(answer.stack_mm, 0) * per} y="170" class="fill-current text-sm"
      >{answer.stack_mm.toFixed(2)}</text
    >
  {/if}
</svg>
