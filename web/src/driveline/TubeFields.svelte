<script lang="ts">
  import type { Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import type { Unit } from "../lib/units";
  import type { DrivelineDesk } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    tube: Schemas["TubeIn"];
    fine: Unit;
  }
  let { on, tube, fine }: Props = $props();
  const MATERIALS = [
    { value: "steel", word: "Steel" },
    { value: "aluminium", word: "Aluminium" },
    { value: "carbon", word: "Carbon fibre" },
  ] as const;
</script>

<div class="grid gap-x-8 gap-y-3 sm:grid-cols-2">
  {#each ["tube", "other"] as const as which (which)}
    {@const one = tube[which] ?? null}
    <fieldset>
      <legend class="figure text-lg">{which === "tube" ? "Tube now" : "Compared with"}</legend>
      {#if one}
        <div class="grid grid-cols-3 gap-2">
          <NumberField
            label="Outside diameter"
            value={one.outer_mm}
            unit={fine}
            ontyped={(value) => value !== null && on.set(() => (one.outer_mm = value))}
          />
          <NumberField
            label="Wall thickness"
            value={one.wall_mm}
            unit={{ ...fine, digits: fine.name === "in" ? 3 : 2 }}
            ontyped={(value) => value !== null && on.set(() => (one.wall_mm = value))}
          />
          <Field label="Material">
            <select
              class="select min-h-touch w-full"
              value={typeof one.material === "string" ? one.material : "own"}
              onchange={(event) =>
                on.set(() => {
                  const found = MATERIALS.find((each) => each.value === event.currentTarget.value);
                  if (found) one.material = found.value;
                  else
                    one.material = {
                      e_gpa: 207,
                      density_kg_m3: 7850,
                      g_gpa: 80,
                      yield_mpa: 350,
                      note: "as entered",
                    };
                })}
            >
              {#each MATERIALS as each (each.value)}<option value={each.value}>{each.word}</option>{/each}
              <option value="own">the maker's figures</option>
            </select>
          </Field>
          {#if typeof one.material !== "string"}
            {@const own = one.material}
            {#each [{ key: "e_gpa", word: "Stiffness, GPa" }, { key: "density_kg_m3", word: "Density, kg/m³" }, { key: "g_gpa", word: "Shear stiffness, GPa" }, { key: "yield_mpa", word: "Yield, MPa" }] as const as figure (figure.key)}
              <NumberField
                label={figure.word}
                value={own[figure.key]}
                ontyped={(value) => value !== null && on.set(() => (own[figure.key] = value))}
              />
            {/each}
          {/if}
        </div>
        {#if which === "other"}<button
            class="min-h-touch underline underline-offset-3"
            onclick={() => on.set(() => (tube.other = null))}>Remove the comparison</button
          >{/if}
      {:else}
        <button
          class="btn btn-plain"
          onclick={() =>
            on.set(() => (tube.other = { outer_mm: 88.9, wall_mm: tube.tube.wall_mm, material: "steel" }))}
          >Compare with another tube</button
        >
      {/if}
    </fieldset>
  {/each}
</div>
