<script lang="ts">
  import type { Answered } from "../answers";

  interface Props {
    answer: Answered<"gasket.template">;
  }
  let { answer }: Props = $props();
  const path = (points: number[][]) => `M${points.map(([x, y]) => `${x} ${-(y ?? 0)}`).join("L")}Z`;
  const hole = $derived((answer.outline.hole_mm ?? 0) / 2);
  const xs = $derived([
    ...answer.outline.outer.map(([x]) => x ?? 0),
    ...answer.holes.flatMap((one) => [one.x_mm - hole, one.x_mm + hole]),
  ]);
  const ys = $derived([
    ...answer.outline.outer.map(([, y]) => -(y ?? 0)),
    ...answer.holes.flatMap((one) => [-one.y_mm - hole, -one.y_mm + hole]),
  ]);
  const left = $derived(Math.min(...xs));
  const top = $derived(Math.min(...ys));
  const wide = $derived(Math.max(...xs) - left);
  const high = $derived(Math.max(...ys) - top);
  const margin = $derived(Math.max(wide, high) * 0.06);
  const line = $derived(Math.max(wide, high) / 260);
</script>

<svg
  viewBox={`${left - margin} ${top - margin} ${wide + 2 * margin} ${high + 2 * margin}`}
  class="block max-h-96 w-full"
  role="img"
  aria-label={`Gasket, ${wide.toFixed(0)} by ${high.toFixed(0)} mm, ${answer.holes.length} holes`}
>
  <path
    d={path(answer.outline.outer) + (answer.outline.inner ? path(answer.outline.inner) : "")}
    fill-rule="evenodd"
    class="fill-base-300"
    stroke="currentColor"
    stroke-width={line}
  />
  {#each answer.holes as one, index (index)}
    <g class={one.verdict === "out" ? "text-out" : ""}>
      <circle
        cx={one.x_mm}
        cy={-one.y_mm}
        r={hole}
        class="fill-base-100"
        stroke="currentColor"
        stroke-width={one.verdict === "out" ? 3 * line : line}
      />
      {#if one.verdict === "out"}<circle
          cx={one.x_mm}
          cy={-one.y_mm}
          r={hole * 1.9}
          fill="none"
          stroke="currentColor"
          stroke-width={2 * line}
          stroke-dasharray={`${4 * line} ${3 * line}`}
        />{/if}
      <text
        x={one.x_mm}
        y={-one.y_mm + hole * 0.4}
        text-anchor="middle"
        class="fill-current"
        font-size={Math.max(hole, 3 * line)}>{index + 1}</text
      >
    </g>
  {/each}
</svg>
