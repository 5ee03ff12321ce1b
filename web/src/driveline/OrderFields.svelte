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
    <legend class="label-text">First: how was it measured?</legend>
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
    <Field label="Ends, in words" hint="flanges, bolts, slip side">
      <input
        class="input min-h-touch w-full"
        maxlength="200"
        value={inputs.order.ends}
        onchange={(event) => on.set(() => (inputs.order.ends = event.currentTarget.value))}
      />
    </Field>
    <Field label="For the shaft maker">
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
        ? "Flange face to flange face, at ride height."
        : "Joint ahead of the last shaft to the pinion flange's face, at ride height."}
      Keep it on the job below; the order sheet is made from what was kept.
    </p>
  {:else}
    <Notice
      kind="told"
      text="The length counts only loaded, level and at ride height: tick all three, and it shows here."
    />
  {/if}
  <p class="quiet mt-2 text-sm">
    Welding and balancing go to a licensed shaft maker. With a shaft out, Park and a transmission handbrake
    hold nothing: chocks both ways first.
  </p>
</section>
