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
  const CENTRED = 0.5;
  const readings = $derived(inputs.readings);

  /** One whole number for every shaft, one of them changed. */
  function whole(of: (number | null)[] | null | undefined, shaft: number, value: number | null) {
    return readings.shafts.map((_, at) =>
      at === shaft ? (value === null ? null : Math.round(value)) : (of?.[at] ?? null),
    );
  }

  /** Where the rear yoke stands, degrees and teeth together. */
  function stands(shaft: number): string {
    return `+ clockwise; the rear yoke is at ${(on.clocks[shaft] ?? 0).toFixed(1)}°`;
  }

  /** Of a joint's angle, what the front half of a double Cardan takes. */
  function share(joint: number, value: number) {
    readings.front_share = (readings.joints ?? []).map((_, at) =>
      at === joint ? value : (readings.front_share?.[at] ?? CENTRED),
    );
  }
</script>

<details>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold">Joints, phasing and splines</summary>
  <div class="grid grid-cols-2 gap-2">
    {#each readings.joints ?? [] as kind, index (index)}
      <Field label={`Joint ${index + 1}`}>
        <select
          class="select min-h-touch w-full"
          value={kind}
          onchange={(event) =>
            on.set(() => {
              const found = KINDS.find((one) => one.value === event.currentTarget.value);
              if (readings.joints && found) readings.joints[index] = found.value;
            })}
        >
          {#each KINDS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
        </select>
      </Field>
      {#if kind === "double_cardan"}
        <NumberField
          label={`Joint ${index + 1}: share of the front half (%)`}
          hint="50 when its centring is good"
          value={(readings.front_share?.[index] ?? CENTRED) * 100}
          digits={0}
          ontyped={(value) => value !== null && on.set(() => share(index, value / 100))}
        />
      {/if}
    {/each}
  </div>
  {#each readings.shafts as shaft, index (index)}
    <div class="border-line mt-2 grid grid-cols-2 gap-2 border-t pt-2">
      <NumberField
        label={`Propshaft ${index + 1}: rear yoke (°)`}
        hint="+ clockwise, looking to the axle"
        value={shaft.clock_deg}
        digits={2}
        ontyped={(value) => value !== null && on.set(() => (shaft.clock_deg = value))}
      />
      <NumberField
        label={`Propshaft ${index + 1}: spline teeth`}
        hint="empty: cannot be clocked"
        value={inputs.teeth?.[index]}
        digits={0}
        optional
        ontyped={(value) =>
          on.set(() => {
            inputs.teeth = whole(inputs.teeth, index, value);
            if (value === null) inputs.set_over = whole(inputs.set_over, index, null);
          })}
      />
      {#if typeof inputs.teeth?.[index] === "number"}
        <NumberField
          label={`Propshaft ${index + 1}: out of phase by (teeth)`}
          hint={stands(index)}
          value={inputs.set_over?.[index] ?? 0}
          digits={0}
          ontyped={(value) =>
            value !== null && on.set(() => (inputs.set_over = whole(inputs.set_over, index, value)))}
        />
      {/if}
    </div>
  {/each}
</details>
