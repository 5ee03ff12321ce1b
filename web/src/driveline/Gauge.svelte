<script lang="ts">
  import type { Schemas } from "../api/client";
  import NumberField from "../lib/NumberField.svelte";

  interface Props {
    name: string;
    reading: Schemas["GaugeReading"];
    /** what its two ends are called */
    ends?: { lower: string; higher: string };
    onchange: (reading: Schemas["GaugeReading"]) => void;
  }
  let {
    name,
    reading,
    ends = { lower: "axle end lower", higher: "axle end higher" },
    onchange,
  }: Props = $props();
</script>

<div class="grid grid-cols-[5.5rem_minmax(0,1fr)_minmax(0,1.3fr)] items-end gap-2">
  <NumberField
    label={`${name}, °`}
    value={reading.value_deg}
    digits={2}
    ontyped={(value) => value !== null && onchange({ ...reading, value_deg: value })}
  />
  <label class="grid gap-1"
    ><span class="sr-only">{name}: read from</span>
    <select
      class="select min-h-touch w-full px-2"
      value={reading.reference}
      onchange={(event) =>
        onchange({ ...reading, reference: event.currentTarget.value === "plumb" ? "plumb" : "level" })}
    >
      <option value="level">from level</option>
      <option value="plumb">from plumb</option>
    </select></label
  >
  <label class="grid gap-1"
    ><span class="sr-only">{name}: which end is lower</span>
    <select
      class="select min-h-touch w-full px-2"
      value={reading.axle_end ?? ""}
      onchange={(event) => {
        const end = event.currentTarget.value;
        onchange({ ...reading, axle_end: end === "lower" || end === "higher" ? end : null });
      }}
    >
      <option value="lower">{ends.lower}</option>
      <option value="higher">{ends.higher}</option>
      <option value="">by the sign (+ lower)</option>
    </select></label
  >
</div>
