<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"clutchpack.order">;
    answer: Answered<"clutchpack.order">;
  }
  let { question, answer }: Props = $props();
  const WIDE = { friction: 16, steel: 16, wave: 16, shim: 8 };
  const bad = $derived(new Set(answer.problems.map((one) => one.index)));
  const plates = $derived.by(() => {
    let x = 60;
    return question.plates.map((plate, index) => {
      const wide = WIDE[plate.kind];
      const one = { ...plate, x, wide, index };
      x += wide + 4;
      return one;
    });
  });
  const end = $derived((plates.at(-1)?.x ?? 60) + 26);
</script>

<svg
  viewBox={`0 0 ${end + 40} 210`}
  class="block max-h-64 w-full"
  role="img"
  aria-label={`Clutch pack of ${plates.length} plates, side gear on the left`}
>
  <defs>
    <pattern id="lining" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path d="M0 0v5" stroke="currentColor" stroke-width="2" />
    </pattern>
  </defs>
  <!-- the case goes round the outside, the side gear's splines run through the middle -->
  <path d={`M44 16H${end + 16}V194H44`} fill="none" stroke="currentColor" stroke-width="3" />
  <rect x="8" y="70" width="44" height="70" class="fill-base-300" stroke="currentColor" stroke-width="2" />
  <path d={`M52 84H${end}M52 126H${end}`} stroke="currentColor" stroke-width="2" stroke-dasharray="6 4" />
  <text x="30" y="158" text-anchor="middle" class="fill-current text-xs">side gear</text>
  <text x={end + 20} y="108" class="fill-current text-xs">case</text>
  {#each plates as plate (plate.index)}
    {@const wrong = bad.has(plate.index)}
    <g class={wrong ? "text-out" : ""}>
      {#each [30, 132] as y (y)}
        <rect
          x={plate.x}
          {y}
          width={plate.wide}
          height="48"
          fill={plate.kind === "friction" ? "url(#lining)" : plate.kind === "shim" ? "currentColor" : "none"}
          class={plate.kind === "steel" || plate.kind === "wave" ? "fill-base-200" : ""}
          stroke="currentColor"
          stroke-width={wrong ? 4 : 1.5}
        />
      {/each}
      {#if plate.kind === "wave"}<path
          d={`M${plate.x + 3} 34q6 6 0 12t0 12t0 12`}
          fill="none"
          stroke="currentColor"
          stroke-width="2"
        />{/if}
      {#if plate.keyed === "case"}
        <path
          d={`M${plate.x} 30v-11h${plate.wide}v11M${plate.x} 180v11h${plate.wide}v-11`}
          fill="currentColor"
        />
      {:else if plate.keyed === "gear"}
        <path
          d={`M${plate.x} 78v10h${plate.wide}v-10M${plate.x} 132v-10h${plate.wide}v10`}
          fill="currentColor"
        />
      {/if}
      <text x={plate.x + plate.wide / 2} y="208" text-anchor="middle" class="fill-current text-xs"
        >{plate.index + 1}</text
      >
    </g>
  {/each}
</svg>
