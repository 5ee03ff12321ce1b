<script lang="ts">
  import Field from "../lib/Field.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
  }
  let { on, inputs }: Props = $props();
  const KINDS = [
    { value: "cardan", word: "Single Cardan" },
    { value: "double_cardan", word: "Double Cardan" },
    { value: "cv", word: "Constant velocity" },
  ] as const;
  const readings = $derived(inputs.readings);

  function set(change: () => void) {
    change();
    on.changed();
  }
</script>

<details>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold">Joints, phase and splines</summary>
  <div class="grid grid-cols-2 gap-2">
    {#each readings.joints ?? [] as kind, index (index)}
      <Field label={`Joint ${index + 1}`}>
        <select
          class="select min-h-touch w-full"
          value={kind}
          onchange={(event) =>
            set(() => {
              const found = KINDS.find((one) => one.value === event.currentTarget.value);
              if (readings.joints && found) readings.joints[index] = found.value;
            })}
        >
          {#each KINDS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
        </select>
      </Field>
    {/each}
    {#each readings.shafts as shaft, index (index)}
      <NumberField
        label={`Shaft ${index + 1}: rear fork, °`}
        hint="+ clockwise, looking to the axle"
        value={shaft.clock_deg}
        digits={2}
        ontyped={(value) => value !== null && set(() => (shaft.clock_deg = value))}
      />
      <NumberField
        label={`Shaft ${index + 1}: spline teeth`}
        hint="empty: cannot be clocked"
        value={inputs.teeth?.[index]}
        digits={0}
        optional
        ontyped={(value) =>
          set(() => {
            inputs.teeth = readings.shafts.map((_, at) =>
              at === index ? (value === null ? null : Math.round(value)) : (inputs.teeth?.[at] ?? null),
            );
          })}
      />
    {/each}
  </div>
</details>
