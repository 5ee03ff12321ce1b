<script lang="ts">
  import Field from "../lib/Field.svelte";
  import type { Quantity, Unit } from "../lib/units";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";
  import Gauge from "./Gauge.svelte";
  import LimitFields from "./LimitFields.svelte";
  import ReadList from "./ReadList.svelte";
  import type { Ask } from "./asks";
  import PhaseFields from "./PhaseFields.svelte";
  import PointFields from "./PointFields.svelte";
  import SpeedFields from "./SpeedFields.svelte";
  import SuspensionFields from "./SuspensionFields.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    units: Record<Quantity, Unit>;
    asks: Ask[];
    ask: Ask;
    size: Unit;
    onpick: (ask: Ask) => void;
  }
  let { on, inputs, units, asks, ask, size, onpick }: Props = $props();
  const readings = $derived(inputs.readings);
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
    <Field label="Propshafts">
      <select
        class="select min-h-touch w-full"
        value={String(readings.shafts.length)}
        onchange={(event) => on.shafts(Number(event.currentTarget.value))}
      >
        <option value="1">One-piece</option>
        <option value="2">Two-piece, centre bearing</option>
        <option value="3">Three-piece, two centre bearings</option>
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
        <option value="gauge">angle gauge</option>
        <option value="points">joint centres</option>
      </select>
    </Field>
  </div>
  <ReadList {inputs} {asks} {ask} {size} {onpick} />
  {#if byPoints}<PointFields {on} {inputs} {size} />{/if}
  <details open={readings.frame !== null && readings.frame !== undefined}>
    <summary class="min-h-touch cursor-pointer py-2 font-semibold">The vehicle is not level</summary>
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
      /> correct with a frame reading</label
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
