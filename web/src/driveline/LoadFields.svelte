<script lang="ts">
  import { untrack } from "svelte";

  import type { Schemas } from "../api/client";
  import NumberField from "../lib/NumberField.svelte";
  import { told, type Quantity, type Unit } from "../lib/units";
  import type { DrivelineAnswer, DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    answer: DrivelineAnswer;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, answer, units }: Props = $props();
  type Load = Schemas["LoadIn"];
  const NONE: Record<keyof Load, number | null> = { engine_nm: null, low_ratio: null, axle_load_kg: null };
  /** worked out once all three are known, never with a made-up one */
  let partial = $state<Record<keyof Load, number | null>>({ ...NONE, ...untrack(() => inputs.load) });

  function typed(key: keyof Load, value: number | null) {
    partial[key] = value;
    const { engine_nm, low_ratio, axle_load_kg } = partial;
    inputs.load =
      engine_nm === null || low_ratio === null || axle_load_kg === null
        ? null
        : { engine_nm, low_ratio, axle_load_kg };
    on.changed();
  }
</script>

<section aria-labelledby="torque">
  <h2 id="torque">Torque to carry</h2>
  <div class="grid max-w-2xl grid-cols-1 gap-2 sm:grid-cols-3">
    {#each [{ key: "engine_nm", word: "Maximum engine torque", of: units.torque }, { key: "low_ratio", word: "Lowest gear × transfer case", of: undefined }, { key: "axle_load_kg", word: "Load on the axle", of: units.mass }] as const as field (field.key)}
      <NumberField
        label={field.word}
        value={partial[field.key]}
        {...field.of ? { unit: field.of } : { digits: 2 }}
        optional
        ontyped={(value) => typed(field.key, value)}
      />
    {/each}
  </div>
  {#if answer.torque}
    <p class="mt-2">
      <span class="figure text-2xl">{told(answer.torque.design_nm, units.torque)}</span>: the engine in low
      gear gives {told(answer.torque.engine_nm, units.torque)}, the tyres hold {told(
        answer.torque.slip_nm,
        units.torque,
      )}; the smaller one counts.
    </p>
  {/if}
</section>
