<script lang="ts">
  import Notice from "../lib/Notice.svelte";
  import { told, type Quantity, type Unit } from "../lib/units";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import type { DrivelineAnswer, DrivelineDesk, Inputs } from "./desk.svelte";
  import EndFields from "./EndFields.svelte";
  import LoadFields from "./LoadFields.svelte";
  import TubeFields from "./TubeFields.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    answer: DrivelineAnswer;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, answer, units }: Props = $props();
  const fine = $derived({ ...units.size, digits: units.size.name === "in" ? 3 : 1 });
  type TubeShown = DrivelineAnswer["tubes"][number]["shaft"];
  const ROWS = $derived([
    { name: "First bending speed", of: (one: TubeShown) => `${one.critical_rpm.toFixed(0)} rpm` },
    { name: "Maximum speed", of: (one: TubeShown) => `${one.allowed_rpm.toFixed(0)} rpm` },
    {
      name: "Maximum road speed",
      of: (one: TubeShown) => (one.max_speed_kmh == null ? "–" : told(one.max_speed_kmh, units.speed)),
    },
    { name: "Torque at yield", of: (one: TubeShown) => told(one.torque_yield_nm, units.torque) },
    {
      name: "Mass",
      of: (one: TubeShown) => told(one.mass_kg, { ...units.mass, digits: 1 }),
    },
    { name: "Inertia", of: (one: TubeShown) => `${one.inertia_kgm2.toFixed(4)} kg m²` },
    {
      name: "Equivalent mass at the wheels",
      of: (one: TubeShown) =>
        one.equivalent_mass_kg == null ? "–" : told(one.equivalent_mass_kg, { ...units.mass, digits: 1 }),
    },
  ]);
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-5">
  {#if inputs.tube}
    {@const tube = inputs.tube}
    <TubeFields {on} {tube} {fine} />
    <EndFields {on} {tube} {fine} mass={units.mass} />
    {#each answer.warnings as text (text)}
      <Notice {text} />
    {/each}
    {#each answer.tubes as one (one.number)}
      <section aria-label={`Propshaft ${one.number}`}>
        <h2 class="flex items-center gap-2">
          <VerdictMark verdict={one.verdict} size={22} />
          Propshaft {one.number}, {told(
            answer.now.analysed.shaft_length_mm?.[one.number - 1] ?? 0,
            units.size,
          )} at
          {answer.rpm.toFixed(0)} rpm
        </h2>
        <table class="w-full max-w-2xl">
          <thead
            ><tr class="quiet text-left"
              ><th scope="col"><span class="sr-only">Quantity</span></th><th scope="col">Now</th
              >{#if one.other}<th scope="col">Compared</th><th scope="col">Factor</th>{/if}</tr
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
          {one.with_ends_rpm == null ? "" : `With end fittings ${one.with_ends_rpm.toFixed(0)} rpm. `}
          Run up to three quarters of the first bending speed (rule of thumb). Soft supports lower it by about 10
          %. Material:
          {one.shaft.material_note}.
        </p>
        {#if one.on_supports}<p class="flex items-center gap-2">
            <VerdictMark verdict={one.on_supports.verdict} size={18} />
            <span
              >On supports this soft the bending speed is <strong
                >{one.on_supports.critical_rpm.toFixed(0)} rpm</strong
              >
              or a little more. Run up to
              <strong>{one.on_supports.allowed_rpm.toFixed(0)} rpm</strong>{one.on_supports_kmh == null
                ? ""
                : `, ${told(one.on_supports_kmh, units.speed)}`} (rule of thumb).</span
            >
          </p>{/if}
        {#each one.shaft.reasons.filter((reason) => reason.code === "near_half_critical") as reason (reason.code)}
          <p>{reason.text}</p>
        {/each}
      </section>
    {/each}
    {#key inputs}<LoadFields {on} {inputs} {answer} {units} />{/key}
    <p class="quiet text-sm">
      A larger diameter brings bending speed and strength, not acceleration. Welding and balancing are work
      for a licensed shaft maker. Keep safety loops and guards fitted.
    </p>
  {/if}
</div>
