<script lang="ts">
  import NumberField from "../lib/NumberField.svelte";
  import type { Unit } from "../lib/units";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    size: Unit;
  }
  let { on, inputs, size }: Props = $props();
  const readings = $derived(inputs.readings);
</script>

<details>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold">Axle, mounts and suspension</summary>
  <div class="grid grid-cols-2 gap-2">
    {#if readings.axle}
      {@const axle = readings.axle}
      <NumberField
        label="Pinion joint to wheel axis"
        value={readings.axle.along_mm}
        unit={size}
        ontyped={(value) => value !== null && on.set(() => (axle.along_mm = value))}
      />
      <NumberField
        label="Wheel axis lower by"
        value={readings.axle.down_mm}
        unit={size}
        ontyped={(value) => value !== null && on.set(() => (axle.down_mm = value))}
      />
    {/if}
    {#if inputs.travel}
      {@const travel = inputs.travel}
      <NumberField
        label="Droop"
        value={-travel.droop_mm}
        unit={size}
        ontyped={(value) => value !== null && on.set(() => (travel.droop_mm = -Math.abs(value)))}
      />
      <NumberField
        label="Bump"
        value={travel.bump_mm}
        unit={size}
        ontyped={(value) => value !== null && on.set(() => (travel.bump_mm = Math.abs(value)))}
      />
      <NumberField
        label="Arm pivot ahead of the wheel axis"
        hint="empty: straight up and down"
        value={travel.pivot_ahead_mm}
        unit={size}
        optional
        ontyped={(value) => on.set(() => (travel.pivot_ahead_mm = value))}
      />
      <NumberField
        label="Arm pivot above the wheel axis"
        value={travel.pivot_above_mm}
        unit={size}
        ontyped={(value) => value !== null && on.set(() => (travel.pivot_above_mm = value))}
      />
      <NumberField
        label="Wind-up on drive (°)"
        hint="leaf springs: 1 to 4 is usual"
        value={travel.drive_wrap_deg}
        ontyped={(value) => value !== null && on.set(() => (travel.drive_wrap_deg = Math.abs(value)))}
      />
      <NumberField
        label="Wind-up on overrun (°)"
        value={travel.overrun_wrap_deg}
        ontyped={(value) => value !== null && on.set(() => (travel.overrun_wrap_deg = Math.abs(value)))}
      />
      <NumberField
        label="Axle turn per arm turn"
        hint="1 fixed to it, 0 parallel links"
        value={travel.pitch_ratio}
        digits={2}
        ontyped={(value) => value !== null && on.set(() => (travel.pitch_ratio = value))}
      />
      <NumberField
        label="Speed at bump and droop (%)"
        hint="of the speed at ride: bump, droop, full drive"
        value={travel.extreme_share * 100}
        digits={0}
        ontyped={(value) => value !== null && on.set(() => (travel.extreme_share = value / 100))}
      />
    {/if}
    <NumberField
      label="Front mounts ahead of the output"
      hint="for shimming the tail mount"
      value={readings.mount?.front_ahead_mm}
      unit={size}
      optional
      ontyped={(value) =>
        on.set(() => {
          readings.mount =
            value === null
              ? null
              : { front_ahead_mm: value, tail_ahead_mm: readings.mount?.tail_ahead_mm ?? 60 };
        })}
    />
    {#if readings.mount}
      {@const mount = readings.mount}
      <NumberField
        label="Tail mount ahead of the output"
        value={readings.mount.tail_ahead_mm}
        unit={size}
        ontyped={(value) => value !== null && on.set(() => (mount.tail_ahead_mm = value))}
      />
    {/if}
  </div>
</details>
