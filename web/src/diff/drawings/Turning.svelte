<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"torque.turning">;
    answer: Answered<"torque.turning">;
  }
  let { question, answer }: Props = $props();
  const first = $derived(question.steps[0]?.turn_deg ?? 0);
  const wide = $derived(Math.max((question.steps.at(-1)?.turn_deg ?? 1) - first, 1));
  const high = $derived(Math.max(question.target_nm, ...question.steps.map((one) => one.torque_nm)) * 1.1);
  const point = (one: { turn_deg: number; torque_nm: number }) =>
    `${40 + (380 * (one.turn_deg - first)) / wide},${180 - (160 * one.torque_nm) / high}`;
</script>

<svg
  viewBox="0 0 440 214"
  class="block max-h-64 w-full"
  role="img"
  aria-label={`Torque against turn: ${answer.state}`}
>
  <path d="M40 16V180H430" fill="none" stroke="currentColor" stroke-width="2" />
  <path
    d={`M40 ${180 - (160 * question.target_nm) / high}H430`}
    class="text-in"
    stroke="currentColor"
    stroke-width="3"
    stroke-dasharray="8 4"
  />
  <text x="428" y={174 - (160 * question.target_nm) / high} text-anchor="end" class="fill-current text-xs"
    >wanted {question.target_nm.toFixed(0)} Nm</text
  >
  <polyline
    points={question.steps.map(point).join(" ")}
    fill="none"
    class={answer.state === "yielding" ? "text-out" : ""}
    stroke="currentColor"
    stroke-width="4"
  />
  {#each question.steps as one (one.turn_deg)}<circle
      cx={point(one).split(",")[0]}
      cy={point(one).split(",")[1]}
      r="5"
      fill="currentColor"
    />{/each}
  <text x="430" y="204" text-anchor="end" class="fill-current text-xs">turned, °</text>
</svg>
