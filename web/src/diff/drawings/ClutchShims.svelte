<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"clutchpack.shims">;
    answer: Answered<"clutchpack.shims">;
  }
  let { question, answer }: Props = $props();
  const WIDE = 560;
  const LEFT = 90;
  const longest = $derived(
    Math.max(
      question.max_mm,
      answer.ring_side.pack_mm ?? 0,
      answer.far_side.pack_mm ?? 0,
      question.ring_side.stack_mm,
      question.far_side.stack_mm,
    ) * 1.03,
  );
  const x = (mm: number) => LEFT + ((WIDE - LEFT - 14) * mm) / longest;
  const sides = $derived([
    { word: "Ring side", stack: question.ring_side.stack_mm, side: answer.ring_side, y: 34 },
    { word: "Far side", stack: question.far_side.stack_mm, side: answer.far_side, y: 104 },
  ]);
  /** The last part of the packs again, so large that hundredths can be seen. */
  const ZOOM = $derived(Math.max(0.6, question.max_mm - question.min_mm) * 2.2);
  const near = (mm: number) =>
    LEFT + (WIDE - LEFT - 14) * (0.5 + (mm - (question.min_mm + question.max_mm) / 2) / ZOOM);
</script>

<svg
  viewBox={`0 0 ${WIDE} 252`}
  class="block w-full"
  role="img"
  aria-label="Both clutch packs with their shims, true to scale, and their ends enlarged"
>
  {#each sides as one (one.word)}
    {@const packs =
      one.side.pick?.pieces.flatMap((piece) =>
        Array.from({ length: piece.count }, () => piece.thickness_mm),
      ) ?? []}
    <text x="2" y={one.y + 20} class="fill-current text-sm">{one.word}</text>
    <rect
      x={LEFT}
      y={one.y}
      width={x(one.stack) - LEFT}
      height="30"
      class="fill-base-300"
      stroke="currentColor"
    />
    {#each Array.from({ length: 11 }, (_, index) => index) as line (line)}
      <path
        d={`M${LEFT + ((x(one.stack) - LEFT) * (line + 1)) / 12} ${one.y}v30`}
        stroke="currentColor"
        opacity=".5"
      />
    {/each}
    {#each packs as thick, index (index)}
      {@const from = one.stack + packs.slice(0, index).reduce((sum, mm) => sum + mm, 0)}
      <rect
        x={x(from)}
        y={one.y}
        width={Math.max(x(from + thick) - x(from), 1.5)}
        height="30"
        fill="currentColor"
        stroke="var(--color-base-100)"
      />
    {/each}
  {/each}
  <rect
    x={x(question.min_mm)}
    y="22"
    width={Math.max(x(question.max_mm) - x(question.min_mm), 2)}
    height="124"
    class="fill-in"
    opacity=".25"
  />
  <text x={x(question.min_mm) - 4} y="16" text-anchor="end" class="fill-current text-xs">true to scale</text>
  <g transform="translate(0 168)">
    <text x="2" y="12" class="fill-current text-xs">enlarged</text>
    <rect
      x={near(question.min_mm)}
      y="16"
      width={near(question.max_mm) - near(question.min_mm)}
      height="58"
      class="fill-in"
      opacity=".25"
    />
    <text x={near(question.min_mm)} y="12" text-anchor="middle" class="fill-current text-xs"
      >{question.min_mm.toFixed(2)}</text
    >
    <text x={near(question.max_mm)} y="12" text-anchor="middle" class="fill-current text-xs"
      >{question.max_mm.toFixed(2)}</text
    >
    {#each sides as one, index (one.word)}
      {#if one.side.pack_mm !== null}
        {@const at = Math.min(Math.max(near(one.side.pack_mm), LEFT), WIDE - 14)}
        <text x="2" y={34 + index * 28} class="fill-current text-sm">{one.word}</text>
        <path d={`M${LEFT} ${30 + index * 28}H${at}`} stroke="currentColor" stroke-width="8" opacity=".5" />
        <path d={`M${at} ${20 + index * 28}v20`} stroke="currentColor" stroke-width="4" />
      {/if}
    {/each}
  </g>
</svg>
