<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"torque.plan">;
    answer: Answered<"torque.plan">;
  }
  let { question, answer }: Props = $props();
  const many = $derived(answer.order.length);
  const row = $derived(question.layout === "row");
  const r = $derived(Math.min(17, row ? 200 / many : 300 / many));
  const turnOf = $derived(new Map(answer.order.map((bolt, turn) => [bolt, turn + 1])));
  const at = (bolt: number): [number, number] => {
    if (row) return [-205 + (410 * (bolt - 0.5)) / many, 0];
    const turn = ((bolt - 1) * 2 * Math.PI) / many;
    return [92 * Math.sin(turn), -92 * Math.cos(turn)];
  };
</script>

<svg
  viewBox={row ? "-215 -50 430 100" : "-125 -125 250 250"}
  class="block max-h-80 w-full"
  role="img"
  aria-label={`Torque sequence: ${answer.order.join(", ")}`}
>
  {#if row}
    <rect
      x="-212"
      y="-30"
      width="424"
      height="60"
      rx="12"
      class="fill-base-200"
      stroke="currentColor"
      stroke-width="2"
    />
  {:else}
    <circle r="118" class="fill-base-200" stroke="currentColor" stroke-width="2" />
    <circle r="66" class="fill-base-100" stroke="currentColor" stroke-width="2" />
    {#if many <= 24}<polyline
        points={answer.order.map((bolt) => at(bolt).join(",")).join(" ")}
        fill="none"
        stroke="currentColor"
        opacity=".25"
        stroke-width="2"
      />{/if}
  {/if}
  {#each answer.order as bolt (bolt)}
    {@const [x, y] = at(bolt)}
    <circle
      cx={x}
      cy={y}
      {r}
      class={turnOf.get(bolt) === 1 ? "fill-next" : "fill-base-100"}
      stroke="currentColor"
      stroke-width="1.5"
    />
    {#if r > 6}<text
        {x}
        y={y + 5}
        text-anchor="middle"
        class={["figure", turnOf.get(bolt) === 1 ? "fill-next-content" : "fill-current"]}
        font-size={Math.min(15, r)}>{turnOf.get(bolt)}</text
      >{/if}
  {/each}
  {#if !row}<text x="-122" y="-112" class="fill-current text-xs">bolt 1 at the top</text>{/if}
</svg>
