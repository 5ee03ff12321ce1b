<script lang="ts">
  import NumberField from "../lib/NumberField.svelte";
  import Field from "../lib/Field.svelte";
  import type { Quantity, Unit } from "../lib/units";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";
  import Gauge from "./Gauge.svelte";
  import MemberFields from "./MemberFields.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, units }: Props = $props();
  const readings = $derived(inputs.readings);
  const size = $derived({ ...units.size, digits: units.size.name === "in" ? 2 : 0 });
  const AXES = ["back", "left", "up"] as const;
  const KINDS = [
    { value: "cardan", word: "Single Cardan" },
    { value: "double_cardan", word: "Double Cardan" },
    { value: "cv", word: "Constant velocity" },
  ] as const;
  const byPoints = $derived(readings.points_mm !== null && readings.points_mm !== undefined);

  function set(change: () => void) {
    change();
    on.changed();
  }
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
          set(() => {
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
    onchange={(member) => set(() => (readings.output = member))}
  />
  {#each readings.shafts as shaft, index (index)}
    {#if !byPoints && shaft.member}
      <div class="border-line grid gap-1 border-t pt-2">
        <MemberFields
          name={readings.shafts.length > 1 ? `Shaft ${index + 1}` : "Shaft"}
          member={shaft.member}
          {size}
          onchange={(member) => set(() => (shaft.member = member))}
        />
        <div class="grid grid-cols-2 gap-2">
          <NumberField
            label="Joint to joint"
            value={shaft.length_mm}
            unit={size}
            ontyped={(value) => set(() => (shaft.length_mm = value))}
          />
          {#if index < readings.shafts.length - 1}
            <NumberField
              label="Bearing behind joint"
              value={shaft.bearing_from_front_mm}
              unit={size}
              optional
              ontyped={(value) => set(() => (shaft.bearing_from_front_mm = value))}
            />
          {/if}
        </div>
      </div>
    {/if}
  {/each}
  {#if byPoints && readings.points_mm}
    <table class="w-full">
      <caption class="label-text text-left">Joint centres, {size.name}</caption>
      <thead
        ><tr class="quiet text-left text-sm"
          ><th scope="col"><span class="sr-only">Joint</span></th>{#each AXES as axis (axis)}<th scope="col"
              >{axis}</th
            >{/each}</tr
        ></thead
      >
      <tbody>
        {#each readings.points_mm as point, joint (joint)}
          <tr>
            <th scope="row" class="figure pr-2 text-left">{joint + 1}</th>
            {#each AXES as axis, index (axis)}
              <td class="p-0.5"
                ><input
                  class="input min-h-touch w-full px-2"
                  inputmode="text"
                  aria-label={`Joint ${joint + 1}, ${axis}`}
                  value={Number(((point[index] ?? 0) * size.per).toFixed(size.digits))}
                  onchange={(event) => {
                    const found = Number(event.currentTarget.value.replace(",", ".")) / size.per;
                    if (Number.isFinite(found)) set(() => (point[index] = found));
                  }}
                /></td
              >
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  <div class="border-line border-t pt-2">
    <MemberFields
      name="Pinion"
      member={readings.pinion}
      {size}
      onchange={(member) => set(() => (readings.pinion = member))}
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
          set(
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
        onchange={(frame) => set(() => (readings.frame = frame))}
      />
    {/if}
  </details>
  <fieldset class="grid gap-2">
    <legend class="figure mb-1 text-lg">Shaft speed</legend>
    <div class="grid grid-cols-2 gap-2">
      <NumberField
        label="At a road speed of"
        value={inputs.speed.speed_kmh}
        unit={units.speed}
        optional
        ontyped={(value) =>
          set(() => {
            inputs.speed.speed_kmh = value;
            inputs.speed.rpm = null;
          })}
      />
      <NumberField
        label="or shaft rpm"
        value={inputs.speed.rpm}
        digits={0}
        optional
        hint={inputs.speed.rpm === null || inputs.speed.rpm === undefined
          ? on.answer
            ? `is ${on.answer.rpm.toFixed(0)}`
            : ""
          : ""}
        ontyped={(value) => set(() => (inputs.speed.rpm = value))}
      />
      <NumberField
        label="Tyre rolls, m a turn"
        value={inputs.speed.circumference_m}
        digits={3}
        optional
        ontyped={(value) => set(() => (inputs.speed.circumference_m = value))}
      />
      <NumberField
        label="Reduction behind it"
        value={inputs.speed.ratio}
        digits={3}
        optional
        ontyped={(value) => set(() => (inputs.speed.ratio = value))}
      />
    </div>
  </fieldset>
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
  <details>
    <summary class="min-h-touch cursor-pointer py-2 font-semibold">Axle, mounts and suspension</summary>
    <div class="grid grid-cols-2 gap-2">
      {#if readings.axle}
        {@const axle = readings.axle}
        <NumberField
          label="Wheel axis past the joint"
          value={readings.axle.along_mm}
          unit={size}
          ontyped={(value) => value !== null && set(() => (axle.along_mm = value))}
        />
        <NumberField
          label="and lower than it by"
          value={readings.axle.down_mm}
          unit={size}
          ontyped={(value) => value !== null && set(() => (axle.down_mm = value))}
        />
      {/if}
      {#if inputs.travel}
        {@const travel = inputs.travel}
        <NumberField
          label="Droop"
          value={-travel.droop_mm}
          unit={size}
          ontyped={(value) => value !== null && set(() => (travel.droop_mm = -Math.abs(value)))}
        />
        <NumberField
          label="Bump"
          value={travel.bump_mm}
          unit={size}
          ontyped={(value) => value !== null && set(() => (travel.bump_mm = Math.abs(value)))}
        />
        <NumberField
          label="Arm's pivot ahead of axis"
          hint="empty: straight up and down"
          value={travel.pivot_ahead_mm}
          unit={size}
          optional
          ontyped={(value) => set(() => (travel.pivot_ahead_mm = value))}
        />
        <NumberField
          label="and above it"
          value={travel.pivot_above_mm}
          unit={size}
          ontyped={(value) => value !== null && set(() => (travel.pivot_above_mm = value))}
        />
        <NumberField
          label="Wind-up on drive, °"
          hint="leaf springs: 1 to 4 is usual"
          value={travel.drive_wrap_deg}
          ontyped={(value) => value !== null && set(() => (travel.drive_wrap_deg = Math.abs(value)))}
        />
        <NumberField
          label="Wind-up on overrun, °"
          value={travel.overrun_wrap_deg}
          ontyped={(value) => value !== null && set(() => (travel.overrun_wrap_deg = Math.abs(value)))}
        />
        <NumberField
          label="Axle turns with the arm"
          hint="1 fixed to it, 0 parallel links"
          value={travel.pitch_ratio}
          digits={2}
          ontyped={(value) => value !== null && set(() => (travel.pitch_ratio = value))}
        />
      {/if}
      <NumberField
        label="Front mounts ahead of output"
        hint="for shimming the tail mount"
        value={readings.mount?.front_ahead_mm}
        unit={size}
        optional
        ontyped={(value) =>
          set(() => {
            readings.mount =
              value === null
                ? null
                : { front_ahead_mm: value, tail_ahead_mm: readings.mount?.tail_ahead_mm ?? 60 };
          })}
      />
      {#if readings.mount}
        {@const mount = readings.mount}
        <NumberField
          label="Tail mount ahead of output"
          value={readings.mount.tail_ahead_mm}
          unit={size}
          ontyped={(value) => value !== null && set(() => (mount.tail_ahead_mm = value))}
        />
      {/if}
    </div>
  </details>
  <details>
    <summary class="min-h-touch cursor-pointer py-2 font-semibold"
      >Limits: rules of thumb, or the maker's</summary
    >
    <div class="grid grid-cols-2 gap-2">
      {#each [{ key: "torsional_rad_s2", word: "Torsional, rad/s²" }, { key: "inertia_rad_s2", word: "Inertia, rad/s²" }, { key: "running_min_deg", word: "Least running, °" }, { key: "end_difference_deg", word: "End difference, °" }] as const as one (one.key)}
        <NumberField
          label={one.word}
          value={inputs.allowed[one.key]}
          ontyped={(value) => value !== null && set(() => (inputs.allowed[one.key] = value))}
        />
        <label class="min-h-touch flex items-center gap-2 self-end"
          ><input
            class="checkbox"
            type="checkbox"
            checked={inputs.allowed.from_maker?.includes(one.key) ?? false}
            onchange={(event) =>
              set(() => {
                const others = (inputs.allowed.from_maker ?? []).filter((name) => name !== one.key);
                inputs.allowed.from_maker = event.currentTarget.checked ? [...others, one.key] : others;
              })}
          />
          the maker's<span class="sr-only">: {one.word}</span></label
        >
      {/each}
      <NumberField
        label="Forks touch at, °"
        hint="from the part; single Cardan often 20 to 35"
        value={inputs.allowed.joint_limit_deg}
        optional
        ontyped={(value) => set(() => (inputs.allowed.joint_limit_deg = value))}
      />
    </div>
  </details>
</form>
