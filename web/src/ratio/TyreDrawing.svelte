<script lang="ts">
  import type { Schemas } from "../api/client";
  import { told, type Unit } from "../lib/units";

  interface Props {
    now: Schemas["Tyre"];
    planned: Schemas["Tyre"];
    size: Unit;
  }
  let { now, planned, size }: Props = $props();
  const HIGH = 150;
  const tallest = $derived(Math.max(now.diameter_mm ?? 1, planned.diameter_mm ?? 1));
  const scale = $derived(HIGH / tallest);
  const grown = $derived((planned.diameter_mm ?? 0) - (now.diameter_mm ?? 0));
  const wider = $derived((planned.width_mm ?? 0) - (now.width_mm ?? 0));
  const sides = $derived([
    { x: 86, tyre: now, name: "now" },
    { x: 256, tyre: planned, name: "planned" },
  ]);
</script>

{#if now.diameter_mm !== null && planned.diameter_mm !== null}
  <figure>
    <svg
      viewBox="0 0 470 186"
      class="block w-full max-w-lg"
      role="img"
      aria-label={`Both tyres to scale: ${told(now.diameter_mm, size)} tall now, ${told(planned.diameter_mm, size)} planned`}
    >
      <path d="M0 158H470" stroke="currentColor" stroke-width="2.5" />
      {#each sides as { x, tyre, name } (name)}
        {@const r = ((tyre.diameter_mm ?? 0) * scale) / 2}
        <circle cx={x} cy={158 - r} {r} class="fill-base-300" stroke="currentColor" stroke-width="2.5" />
        <circle
          cx={x}
          cy={158 - r}
          r={((tyre.rim_mm ?? 0) * scale) / 2}
          class="fill-base-100"
          stroke="currentColor"
          stroke-width="1.8"
        />
        <text {x} y="179" text-anchor="middle" class="label-text" font-size="15" fill="currentColor"
          >{name}</text
        >
      {/each}
      {#each sides as { tyre, name }, index (name)}
        {@const wide = (tyre.width_mm ?? 0) * scale}
        <rect
          x={376 + index * 58 - wide / 2}
          y={158 - (tyre.diameter_mm ?? 0) * scale}
          width={wide}
          height={(tyre.diameter_mm ?? 0) * scale}
          rx={wide / 5}
          class="fill-base-300"
          stroke="currentColor"
          stroke-width="2"
        />
      {/each}
    </svg>
    <figcaption>
      {#if Math.abs(grown) < 0.5 && Math.abs(wider) < 0.5}
        The same size.
      {:else}
        {told(Math.abs(grown), size)}
        {grown >= 0 ? "taller" : "lower"}, {told(Math.abs(wider), size)}
        {wider >= 0 ? "wider" : "narrower"}; {told(Math.abs(grown / 2), size)}
        {grown >= 0 ? "more" : "less"} ground clearance.
        {#if grown > 0 || wider > 0}Measure before you buy: is there room in the arches on full lock and in
          bump, and at the brake hoses?{/if}
      {/if}
    </figcaption>
  </figure>
{/if}
