<script lang="ts">
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import { told, type Unit } from "../lib/units";
  import type { DrivelineAnswer, DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    answer: DrivelineAnswer;
    size: Unit;
  }
  let { on, inputs, answer, size }: Props = $props();
  const CONDITIONS = [
    { key: "at_ride_height", word: "At ride height" },
    { key: "vehicle_level", word: "Vehicle level" },
    { key: "suspension_loaded", word: "Suspension loaded, wheels on the ground or on ramps" },
  ] as const;
</script>

<section aria-labelledby="order" class="rule-top pt-3">
  <h2 id="order">Length to order</h2>
  <fieldset class="my-2">
    <legend class="label-text">How was it measured?</legend>
    {#each CONDITIONS as condition (condition.key)}
      <label class="min-h-touch flex items-center gap-3"
        ><input
          class="checkbox"
          type="checkbox"
          checked={inputs.order[condition.key]}
          onchange={(event) => on.set(() => (inputs.order[condition.key] = event.currentTarget.checked))}
        />
        {condition.word}</label
      >
    {/each}
  </fieldset>
  <div class="grid max-w-3xl gap-2 sm:grid-cols-2">
    <NumberField
      label="Output flange face to joint centre"
      value={inputs.order.flange_out_mm}
      unit={size}
      ontyped={(value) => value !== null && on.set(() => (inputs.order.flange_out_mm = value))}
    />
    <NumberField
      label="Pinion flange face to joint centre"
      value={inputs.order.flange_pinion_mm}
      unit={size}
      ontyped={(value) => value !== null && on.set(() => (inputs.order.flange_pinion_mm = value))}
    />
    <Field label="Ends (description)" hint="flanges, bolts, slip side">
      <input
        class="input min-h-touch w-full"
        maxlength="200"
        value={inputs.order.ends}
        onchange={(event) => on.set(() => (inputs.order.ends = event.currentTarget.value))}
      />
    </Field>
    <Field label="Note to the shaft maker">
      <input
        class="input min-h-touch w-full"
        maxlength="200"
        value={inputs.order.note}
        onchange={(event) => on.set(() => (inputs.order.note = event.currentTarget.value))}
      />
    </Field>
  </div>
  {#if CONDITIONS.every((condition) => inputs.order[condition.key])}
    <p class="figure mt-3 text-3xl">{told(answer.face_to_face_mm, size)}</p>
    <p>
      {inputs.readings.shafts.length === 1
        ? "Flange face to flange face at ride height."
        : "Joint ahead of the last propshaft to the face of the pinion flange, at ride height."}
      Save it to this job below. The order sheet is made from the saved answer.
    </p>
  {:else}
    <Notice
      kind="told"
      text="The length only counts at ride height, vehicle level, suspension loaded. Tick all three to see it."
    />
  {/if}
  <p class="quiet mt-2 text-sm">
    The vehicle can roll: with a propshaft out, neither Park nor a transmission handbrake holds it. Chock both
    ways first. Welding and balancing are work for a licensed shaft maker.
  </p>
</section>
