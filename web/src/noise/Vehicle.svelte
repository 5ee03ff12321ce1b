<script lang="ts">
  import NumberField from "../lib/NumberField.svelte";
  import type { NoiseFinder, FeltQuestion } from "./finder.svelte";

  interface Props {
    on: NoiseFinder;
    felt: FeltQuestion;
  }
  let { on, felt }: Props = $props();
  const drivetrain = $derived(felt.drivetrain);
  function set(change: () => void) {
    change();
    on.changed();
  }
  const bearings = $derived(drivetrain.bearings ?? []);
</script>

<form class="grid gap-3" aria-label="Vehicle" onsubmit={(event) => event.preventDefault()}>
  <h2>Vehicle</h2>
  <div class="grid grid-cols-2 gap-2">
    <NumberField
      label="Rolling circumference (m)"
      value={drivetrain.circumference_m}
      digits={3}
      ontyped={(value) => value !== null && set(() => (drivetrain.circumference_m = value))}
    />
    <NumberField
      label="Axle ratio"
      value={drivetrain.axle_ratio}
      digits={3}
      ontyped={(value) => value !== null && set(() => (drivetrain.axle_ratio = value))}
    />
    <NumberField
      label="Pinion teeth"
      value={drivetrain.pinion_teeth}
      digits={0}
      optional
      ontyped={(value) => set(() => (drivetrain.pinion_teeth = value === null ? null : Math.round(value)))}
    />
    <NumberField
      label="Cylinders"
      value={drivetrain.cylinders}
      digits={0}
      optional
      ontyped={(value) => set(() => (drivetrain.cylinders = value === null ? null : Math.round(value)))}
    />
    <NumberField
      label="Hub ratio"
      value={drivetrain.hub_ratio}
      digits={3}
      ontyped={(value) => value !== null && set(() => (drivetrain.hub_ratio = value))}
    />
    <NumberField
      label="Transfer ratio"
      value={drivetrain.transfer_ratio}
      digits={3}
      ontyped={(value) => value !== null && set(() => (drivetrain.transfer_ratio = value))}
    />
  </div>
  <label class="min-h-touch flex items-center gap-3"
    ><input
      class="checkbox"
      type="checkbox"
      checked={drivetrain.front_shaft}
      onchange={(event) => set(() => (drivetrain.front_shaft = event.currentTarget.checked))}
    /> a front propshaft turns too</label
  >
  <details>
    <summary class="min-h-touch cursor-pointer py-2 font-semibold">Bearings</summary>
    {#each bearings as bearing, index (index)}
      <fieldset class="border-line mb-2 border-t pt-2">
        <legend class="label-text">Bearing {index + 1}</legend>
        <label class="grid gap-1"
          ><span class="label-text">Name</span><input
            class="input min-h-touch w-full"
            maxlength="40"
            value={bearing.name}
            onchange={(event) =>
              set(() => {
                const name = event.currentTarget.value.trim();
                if (name !== "") bearing.name = name;
              })}
          /></label
        >
        <label class="grid gap-1"
          ><span class="label-text">Turns with</span>
          <select
            class="select min-h-touch w-full"
            value={bearing.turns_with}
            onchange={(event) =>
              set(() => {
                bearing.turns_with = event.currentTarget.value === "wheel" ? "wheel" : "prop";
              })}
            ><option value="prop">pinion and propshaft</option><option value="wheel">wheel</option></select
          ></label
        >
        <div class="grid grid-cols-2 gap-2">
          {#each [{ key: "balls", word: "Balls or rollers" }, { key: "ball_mm", word: "Ball or roller diameter (mm)" }, { key: "pitch_mm", word: "Pitch circle diameter (mm)" }, { key: "contact_deg", word: "Contact angle (°)" }] as const as field (field.key)}
            <NumberField
              label={field.word}
              value={bearing[field.key]}
              digits={field.key === "balls" ? 0 : 2}
              ontyped={(value) => value !== null && set(() => (bearing[field.key] = value))}
            />
          {/each}
        </div>
        <button
          class="min-h-touch underline underline-offset-3"
          onclick={() => set(() => (drivetrain.bearings = bearings.filter((_, at) => at !== index)))}
          >Remove</button
        >
      </fieldset>
    {/each}
    <button
      class="btn btn-plain btn-sm"
      onclick={() =>
        set(
          () =>
            (drivetrain.bearings = [
              ...bearings,
              {
                name: `bearing ${bearings.length + 1}`,
                turns_with: "prop",
                balls: 14,
                ball_mm: 11,
                pitch_mm: 60,
                contact_deg: 15,
                turning: "inner",
              },
            ]),
        )}>Add a bearing</button
    >
  </details>
</form>
