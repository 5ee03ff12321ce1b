<script lang="ts">
  import NumberField from "../lib/NumberField.svelte";
  import Field from "../lib/Field.svelte";
  import type { Quantity, Unit } from "../lib/units";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";
  import Gauge from "./Gauge.svelte";
  import LimitFields from "./LimitFields.svelte";
  import MemberFields from "./MemberFields.svelte";
  import PhaseFields from "./PhaseFields.svelte";
  import PointFields from "./PointFields.svelte";
  import SpeedFields from "./SpeedFields.svelte";
  import SuspensionFields from "./SuspensionFields.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, units }: Props = $props();
  const readings = $derived(inputs.readings);
  const size = $derived({ ...units.size, digits: units.size.name === "in" ? 2 : 0 });
  const byPoints = $derived(readings.points_mm !== null && readings.points_mm !== undefined);
</script>

<form class="grid gap-4" aria-label="What was measured" onsubmit={(event) => event.preventDefault()}>
  {#if on.desk?.first_front}
    <fieldset class="flex flex-wrap gap-x-5">
      <legend class="label-text">Which driveline</legend>
      {#each [{ key: "rear", word: "Rear" }, { key: "front", word: "Front" }] as const as one (one.key)}
        <label class="min-h-touch flex items-center gap-2"
          ><input
            class="radio"
            type="radio"
            name="chain"
            checked={on.chain === one.key}
            onchange={() => void on.show(one.key)}
          />
          {one.word}</label
        >
      {/each}
    </fieldset>
  {/if}
  <div class="grid grid-cols-2 gap-3">
    <Field label="Shafts">
      <select
        class="select min-h-touch w-full"
        value={String(readings.shafts.length)}
        onchange={(event) => on.shafts(Number(event.currentTarget.value))}
      >
        <option value="1">one</option>
        <option value="2">two, a centre bearing</option>
        <option value="3">three, two bearings</option>
      </select>
    </Field>
    <Field label="Measured by">
      <select
        class="select min-h-touch w-full"
        value={byPoints ? "points" : "gauge"}
        onchange={(event) =>
          on.set(() => {
            readings.points_mm =
              event.currentTarget.value === "points" ? (on.answer?.read.points_mm ?? null) : null;
          })}
      >
        <option value="gauge">gauge and length</option>
        <option value="points">joint centres</option>
      </select>
    </Field>
  </div>
  {#if on.untouched}<p class="quiet text-sm">
      <span class="sample">Sample</span> Lay the gauge on the output flange, the tube and the pinion flange, at
      ride height with the suspension loaded, and type what it shows.
    </p>{/if}
  <MemberFields
    name="Output"
    member={readings.output}
    {size}
    onchange={(member) => on.set(() => (readings.output = member))}
  />
  {#each readings.shafts as shaft, index (index)}
    {#if !byPoints && shaft.member}
      <div class="border-line grid gap-1 border-t pt-2">
        <MemberFields
          name={readings.shafts.length > 1 ? `Shaft ${index + 1}` : "Shaft"}
          member={shaft.member}
          {size}
          onchange={(member) => on.set(() => (shaft.member = member))}
        />
        <div class="grid grid-cols-2 gap-2">
          <NumberField
            label="Joint to joint"
            value={shaft.length_mm}
            unit={size}
            ontyped={(value) => on.set(() => (shaft.length_mm = value))}
          />
          {#if index < readings.shafts.length - 1}
            <NumberField
              label="Bearing behind joint"
              value={shaft.bearing_from_front_mm}
              unit={size}
              optional
              ontyped={(value) => on.set(() => (shaft.bearing_from_front_mm = value))}
            />
          {/if}
        </div>
      </div>
    {/if}
  {/each}
  {#if byPoints}<PointFields {on} {inputs} {size} />{/if}
  <div class="border-line border-t pt-2">
    <MemberFields
      name="Pinion"
      member={readings.pinion}
      {size}
      onchange={(member) => on.set(() => (readings.pinion = member))}
    />
  </div>
  <details open={readings.frame !== null && readings.frame !== undefined}>
    <summary class="min-h-touch cursor-pointer py-2 font-semibold">The vehicle does not stand level</summary>
    <label class="min-h-touch flex items-center gap-3"
      ><input
        class="checkbox"
        type="checkbox"
        checked={Boolean(readings.frame)}
        onchange={(event) =>
          on.set(
            () =>
              (readings.frame = event.currentTarget.checked
                ? { value_deg: 0, reference: "level", axle_end: "lower" }
                : null),
          )}
      /> correct by a reading of the frame</label
    >
    {#if readings.frame}
      <Gauge
        name="Frame"
        reading={readings.frame}
        ends={{ lower: "rear end lower", higher: "rear end higher" }}
        onchange={(frame) => on.set(() => (readings.frame = frame))}
      />
    {/if}
  </details>
  <SpeedFields {on} {inputs} {units} />
  <PhaseFields {on} {inputs} />
  <SuspensionFields {on} {inputs} {size} />
  <LimitFields {on} {inputs} />
</form>
