<script lang="ts">
  import NumberField from "../lib/NumberField.svelte";
  import type { Quantity, Unit } from "../lib/units";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, units }: Props = $props();
</script>

<fieldset class="grid gap-2">
  <legend class="figure mb-1 text-lg">Propshaft speed</legend>
  <div class="grid grid-cols-2 gap-2">
    <NumberField
      label="Road speed"
      value={inputs.speed.speed_kmh}
      unit={units.speed}
      optional
      ontyped={(value) =>
        on.set(() => {
          inputs.speed.speed_kmh = value;
          inputs.speed.rpm = null;
        })}
    />
    <NumberField
      label="or propshaft speed (rpm)"
      value={inputs.speed.rpm}
      digits={0}
      optional
      hint={inputs.speed.rpm === null || inputs.speed.rpm === undefined
        ? on.answer
          ? `is ${on.answer.rpm.toFixed(0)}`
          : ""
        : ""}
      ontyped={(value) => on.set(() => (inputs.speed.rpm = value))}
    />
    <NumberField
      label="Rolling circumference (m)"
      value={inputs.speed.circumference_m}
      digits={3}
      optional
      ontyped={(value) => on.set(() => (inputs.speed.circumference_m = value))}
    />
    <NumberField
      label="Axle ratio"
      value={inputs.speed.ratio}
      digits={3}
      optional
      ontyped={(value) => on.set(() => (inputs.speed.ratio = value))}
    />
  </div>
</fieldset>
