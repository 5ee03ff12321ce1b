<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"bearing.compare">;
    answer: Answered<"bearing.compare">;
  }
  let { question, answer }: Props = $props();
  const mean = (all: number[]) => all.reduce((sum, one) => sum + one, 0) / all.length;
  const sides = $derived([
    {
      word: "Ring side",
      old: mean(question.old.ring_side_mm),
      by: answer.difference_mm.ring_side,
      shim: question.ring_side_shim_mm,
      now: answer.shims.ring_side_mm,
      y: 22,
    },
    {
      word: "Far side",
      old: mean(question.old.far_side_mm),
      by: answer.difference_mm.far_side,
      shim: question.far_side_shim_mm,
      now: answer.shims.far_side_mm,
      y: 116,
    },
  ]);
  const longest = $derived(
    Math.max(...sides.map((one) => one.old + Math.max(one.shim, one.now) + Math.abs(one.by))),
  );
  const per = $derived(330 / longest);
</script>

<svg
  viewBox="0 0 440 214"
  class="block max-h-64 w-full"
  role="img"
  aria-label="Old and new bearings with their shims, true to scale"
>
  {#each sides as one (one.word)}
    {#each [{ word: "old", high: one.old, shim: one.shim }, { word: "new", high: one.old + one.by, shim: one.now }] as row, index (row.word)}
      {@const y = one.y + index * 38}
      <text x="2" y={y + 20} class="fill-current text-xs">{index === 0 ? one.word : ""} {row.word}</text>
      <rect
        x="90"
        {y}
        width={row.high * per}
        height="30"
        class="fill-base-300"
        stroke="currentColor"
        stroke-width="1.5"
      />
      <path d={`M90 ${y + 30}L${90 + row.high * per} ${y}`} stroke="currentColor" opacity=".4" />
      <rect x={90 + row.high * per} {y} width={Math.max(row.shim, 0) * per} height="30" fill="currentColor" />
      <text x={96 + (row.high + Math.max(row.shim, 0)) * per} y={y + 20} class="fill-current text-xs"
        >shim {row.shim.toFixed(2)}</text
      >
    {/each}
  {/each}
</svg>
