<script lang="ts">
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import type { LengthUnit } from "../lib/quantity";
  import { inPersonsUnits } from "../lib/sentences";
  import { told, type Quantity, type Unit } from "../lib/units";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import type { DrivelineAnswer, DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    answer: DrivelineAnswer;
    unit: LengthUnit;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, answer, unit, units }: Props = $props();
  const fine = $derived({ ...units.size, digits: units.size.name === "in" ? 3 : 1 });
  const MATERIALS = [
    { value: "steel", word: "Steel" },
    { value: "aluminium", word: "Aluminium" },
    { value: "carbon", word: "Carbon fibre" },
  ] as const;
  type TubeShown = DrivelineAnswer["tubes"][number]["shaft"];
  const ROWS = $derived([
    { name: "First bending speed", of: (one: TubeShown) => `${one.critical_rpm.toFixed(0)} rpm` },
    { name: "Run up to", of: (one: TubeShown) => `${one.allowed_rpm.toFixed(0)} rpm` },
    {
      name: "Road speed that is safe",
      of: (one: TubeShown) => (one.max_speed_kmh == null ? "–" : told(one.max_speed_kmh, units.speed)),
    },
    { name: "Torque at yield", of: (one: TubeShown) => told(one.torque_yield_nm, units.torque) },
    {
      name: "Mass",
      of: (one: TubeShown) => told(one.mass_kg, { ...units.mass, digits: 1 }),
    },
    { name: "Inertia", of: (one: TubeShown) => `${one.inertia_kgm2.toFixed(4)} kg m²` },
    {
      name: "Is worth at the wheels",
      of: (one: TubeShown) =>
        one.equivalent_mass_kg == null ? "–" : told(one.equivalent_mass_kg, { ...units.mass, digits: 1 }),
    },
  ]);
  type Which = "tube" | "other";
  function set(change: () => void) {
    change();
    on.changed();
  }
  const shown = (which: Which) => inputs.tube?.[which] ?? null;
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-5">
  {#if inputs.tube}
    {@const tube = inputs.tube}
    <div class="grid gap-x-8 gap-y-3 sm:grid-cols-2">
      {#each ["tube", "other"] as const as which (which)}
        {@const one = shown(which)}
        <fieldset>
          <legend class="figure text-lg">{which === "tube" ? "Tube as it is" : "Compared with"}</legend>
          {#if one}
            <div class="grid grid-cols-3 gap-2">
              <NumberField
                label="Outer"
                value={one.outer_mm}
                unit={fine}
                ontyped={(value) => value !== null && set(() => (one.outer_mm = value))}
              />
              <NumberField
                label="Wall"
                value={one.wall_mm}
                unit={{ ...fine, digits: units.size.name === "in" ? 3 : 2 }}
                ontyped={(value) => value !== null && set(() => (one.wall_mm = value))}
              />
              <Field label="Material">
                <select
                  class="select min-h-touch w-full"
                  value={typeof one.material === "string" ? one.material : "own"}
                  onchange={(event) =>
                    set(() => {
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
                    ontyped={(value) => value !== null && set(() => (own[figure.key] = value))}
                  />
                {/each}
              {/if}
            </div>
            {#if which === "other"}<button
                class="min-h-touch underline underline-offset-3"
                onclick={() => set(() => (tube.other = null))}>Compare no more</button
              >{/if}
          {:else}
            <button
              class="btn btn-plain"
              onclick={() =>
                set(() => (tube.other = { outer_mm: 88.9, wall_mm: tube.tube.wall_mm, material: "steel" }))}
              >Put a second tube beside it</button
            >
          {/if}
        </fieldset>
      {/each}
    </div>
    {#each answer.warnings as text (text)}
      <Notice {text} />
    {/each}
    {#each answer.tubes as one (one.number)}
      <section aria-label={`Shaft ${one.number}`}>
        <h2 class="flex items-center gap-2">
          <VerdictMark verdict={one.shaft.verdict} size={22} />
          Shaft {one.number}, {told(answer.now.analysed.shaft_length_mm?.[one.number - 1] ?? 0, units.size)} at
          {answer.rpm.toFixed(0)} rpm
        </h2>
        <table class="w-full max-w-2xl">
          <thead
            ><tr class="quiet text-left"
              ><th scope="col"><span class="sr-only">What</span></th><th scope="col">As it is</th
              >{#if one.other}<th scope="col">Compared</th><th scope="col">is times</th>{/if}</tr
            ></thead
          >
          <tbody>
            {#each ROWS as row (row.name)}
              <tr class="border-line border-t"
                ><th scope="row" class="quiet py-1 text-left font-normal">{row.name}</th>
                <td class="figure text-lg">{row.of(one.shaft)}</td>
                {#if one.other}<td class="figure text-lg">{row.of(one.other)}</td>
                  <td
                    >{#if row.name === "First bending speed" && one.ratios}{(
                        one.ratios.critical_rpm ?? 1
                      ).toFixed(2)}{:else if row.name === "Torque at yield" && one.ratios}{(
                        one.ratios.torque_yield_nm ?? 1
                      ).toFixed(2)}{:else if row.name === "Mass" && one.ratios}{(
                        one.ratios.mass_kg ?? 1
                      ).toFixed(2)}{/if}</td
                  >{/if}</tr
              >
            {/each}
          </tbody>
        </table>
        <p class="quiet text-sm">
          {one.with_ends_rpm == null ? "" : `With end fittings ${one.with_ends_rpm.toFixed(0)} rpm. `}Soft
          supports lower it by some 10 %, hence the three quarters (a rule of thumb). Material: {one.shaft
            .material_note}.
        </p>
        {#each one.shaft.reasons.filter((reason) => reason.code === "near_half_critical") as reason (reason.code)}
          <p>{inPersonsUnits(reason.text, unit)}</p>
        {/each}
      </section>
    {/each}
    <section aria-labelledby="torque">
      <h2 id="torque">Torque it has to carry</h2>
      <div class="grid max-w-2xl grid-cols-1 gap-2 sm:grid-cols-3">
        {#each [{ key: "engine_nm", word: "Engine's greatest torque", of: units.torque }, { key: "low_ratio", word: "Lowest gear × transfer", of: undefined }, { key: "axle_load_kg", word: "Load on the axle", of: units.mass }] as const as field (field.key)}
          <NumberField
            label={field.word}
            value={inputs.load?.[field.key]}
            {...field.of ? { unit: field.of } : { digits: 2 }}
            optional
            ontyped={(value) =>
              set(() => {
                if (value === null) inputs.load = null;
                else {
                  inputs.load ??= { engine_nm: 300, low_ratio: 4, axle_load_kg: 1500 };
                  inputs.load[field.key] = value;
                }
              })}
          />
        {/each}
      </div>
      {#if answer.torque}
        <p class="mt-2">
          <span class="figure text-2xl">{told(answer.torque.design_nm, units.torque)}</span>: the engine in
          low gear brings {told(answer.torque.engine_nm, units.torque)}, the tyres hold {told(
            answer.torque.slip_nm,
            units.torque,
          )}; the smaller governs.
        </p>
      {/if}
    </section>
    <p class="quiet text-sm">
      Sell diameter for bending speed and strength, not for acceleration. Welding and balancing are work for a
      licensed shaft maker; loops and guards stay fitted.
    </p>
  {/if}
</div>
