<script lang="ts">
  import type { Family, Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";

  interface Props {
    family: Family;
    mayEdit: boolean;
    oncount: (body: Schemas["ShimCountIn"]) => void;
  }
  let { family, mayEdit, oncount }: Props = $props();
  const side = $derived(family.shims.filter((row) => row.place === "side"));
  let thickness = $state<number | null>(null);
  let count = $state<number | null>(null);
</script>

<section aria-labelledby="drawer">
  <h2 id="drawer">Side shims in the drawer</h2>
  {#if family.carrier_method === "adjusters"}
    <p class="mt-2">This carrier is held by adjusters: there are no side shims.</p>
  {:else}
    <ul class="mt-2 columns-2 gap-6 sm:columns-3 lg:columns-2">
      {#each side as row (row.thickness_mm)}
        <li class="border-line flex min-h-9 break-inside-avoid items-center gap-2 border-b">
          <span class="figure w-16 text-lg">{row.thickness_mm.toFixed(2)}</span>
          <svg viewBox="0 0 60 10" class="h-2.5 w-14" aria-hidden="true">
            {#each Array.from({ length: Math.min(row.count, 6) }, (_, piece) => piece) as piece (piece)}
              <rect x={piece * 10} y="1" width="8" height="8" fill="currentColor" opacity=".75" />
            {/each}
          </svg>
          <span class={row.count === 0 ? "text-out" : ""}>{row.count === 0 ? "none left" : row.count}</span>
        </li>
      {/each}
    </ul>
    {#if mayEdit}
      <form
        class="mt-4 flex flex-wrap items-end gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          if (thickness !== null && count !== null)
            oncount({ place: "side", thickness_mm: thickness, count });
        }}
      >
        <Field label="Thickness, mm"
          ><input
            class="input w-32"
            type="number"
            min="0.001"
            max="50"
            step="any"
            required
            bind:value={thickness}
          /></Field
        >
        <Field label="How many lie there"
          ><input
            class="input w-32"
            type="number"
            min="0"
            max="10000"
            step="1"
            required
            bind:value={count}
          /></Field
        >
        <button class="btn btn-neutral">Set the count</button>
      </form>
    {/if}
  {/if}
</section>
