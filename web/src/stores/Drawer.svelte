<script lang="ts">
  import type { Family, Schemas } from "../api/client";
  import type { Unwritten } from "../lib/envelope";
  import Field from "../lib/Field.svelte";
  import { turnsNotches } from "../lib/words";

  interface Props {
    family: Family;
    mayEdit: boolean;
    oncount: (body: Unwritten<Schemas["ShimCountIn"]>) => void;
  }
  let { family, mayEdit, oncount }: Props = $props();
  type Place = Schemas["ShimCountIn"]["place"];
  const DRAWERS: { place: Place; name: string }[] = [
    { place: "side", name: "Side shims" },
    { place: "depth", name: "Depth shims" },
    { place: "spacer", name: "Spacer shims" },
    { place: "clutch", name: "Clutch shims" },
    { place: "washer", name: "Thrust washers" },
    { place: "output", name: "Output shims" },
  ];
  /** adjusters want no side shims; a crush sleeve wants none under a spacer */
  const drawers = $derived(
    DRAWERS.map(({ place, name }) => ({
      place,
      name,
      rows: family.shims.filter((row) => row.place === place),
    })).filter(
      ({ place, rows }) =>
        rows.length > 0 || (mayEdit && (place !== "side" || !turnsNotches(family.carrier_method))),
    ),
  );
  let place = $state<Place>("depth");
  let thickness = $state<number | null>(null);
  let count = $state<number | null>(null);
  /** the row as it is shown: somebody who counted it since is not overwritten */
  const version = $derived(
    family.shims.find(
      (row) => row.place === place && thickness !== null && Math.abs(row.thickness_mm - thickness) < 5e-5,
    )?.version ?? 0,
  );
</script>

<section aria-labelledby="drawer">
  <h2 id="drawer">Shims in the drawer</h2>
  {#if drawers.length === 0}<p class="mt-2">Nothing listed yet, so the bench proposes any thickness.</p>{/if}
  {#each drawers as one (one.place)}
    <h3 class="mt-3">{one.name}</h3>
    {#if one.rows.length === 0}<p class="quiet">None listed, so the bench proposes any thickness.</p>{/if}
    <ul class="mt-1 columns-2 gap-6 sm:columns-3 lg:columns-2">
      {#each one.rows as row (row.thickness_mm)}
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
  {/each}
  {#if mayEdit}
    <form
      class="mt-4 flex flex-wrap items-end gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        if (thickness !== null && count !== null) oncount({ place, thickness_mm: thickness, count, version });
      }}
    >
      <Field label="Drawer">
        <select class="select w-40" bind:value={place}>
          {#each DRAWERS as one (one.place)}<option value={one.place}>{one.name}</option>{/each}
        </select>
      </Field>
      <Field label="Thickness (mm)"
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
      <Field label="Number in the drawer"
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
      <button class="btn btn-neutral">Save count</button>
    </form>
  {/if}
</section>
