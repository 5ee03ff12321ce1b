<script lang="ts">
  import type { Family, Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { placeOr, placesOf, type Kinds, type Place } from "./kinds";

  interface Props {
    kinds: Kinds;
    families: Family[];
    layout: Schemas["JobOut"]["layout"];
    kind: string;
    place: Place | "";
    family: string;
  }
  let {
    kinds,
    families,
    layout,
    kind = $bindable(),
    place = $bindable(),
    family = $bindable(),
  }: Props = $props();

  const chosen = $derived(kinds.kinds.find((one) => one.code === kind));
  const pointed = $derived(
    kinds.pointed_at
      .map((code) => kinds.kinds.find((one) => one.code === code))
      .filter((one) => one !== undefined),
  );
  const places = $derived(placesOf(kinds, kind, layout));
  const sheetFor = $derived(places.find((one) => one.place === place)?.sheet ?? "");
  const fitting = $derived(families.filter((one) => one.part === sheetFor));

  // a place that the kind does not have, or that this vehicle has not got, is not kept
  $effect(() => {
    place = placeOr(places, place);
    if (families.length > 0 && !fitting.some((one) => one.code === family)) family = "";
  });
</script>

<div class="grid gap-4 sm:grid-cols-2">
  <div class="sm:col-span-2">
    <Field label="Kind of work" hint={chosen?.about ?? ""}>
      <select class="select w-full" required bind:value={kind}>
        <option value="" disabled>Choose the kind of work</option>
        {#if pointed.length > 0}
          <optgroup label="The complaint points at">
            {#each pointed as one (one.code)}<option value={one.code}>{one.title}</option>{/each}
          </optgroup>
        {/if}
        <optgroup label={pointed.length > 0 ? "All others" : "All"}>
          {#each kinds.kinds.filter((one) => !kinds.pointed_at.includes(one.code)) as one (one.code)}<option
              value={one.code}>{one.title}</option
            >{/each}
        </optgroup>
      </select>
    </Field>
  </div>
  <Field label="Part of the vehicle">
    <select class="select w-full" required bind:value={place}>
      {#each places as one (one.place)}<option value={one.place}>{one.label}</option>{/each}
    </select>
  </Field>
  {#if sheetFor !== ""}
    <Field
      label={chosen?.bench ? "Axle family (from the Stores)" : "Family, where it is known"}
      hint={chosen?.bench ? "" : "Without one, nothing is judged by a sheet."}
    >
      <select class="select w-full" required={chosen?.bench ?? false} bind:value={family}>
        <option value="" disabled={chosen?.bench ?? false}
          >{chosen?.bench ? "Choose the axle family" : "Not known"}</option
        >
        {#each fitting as one (one.code)}<option value={one.code}
            >{one.name}: {one.build.split(";")[0]}</option
          >{/each}
      </select>
    </Field>
  {/if}
</div>
