<script lang="ts">
  import type { Schemas } from "../api/client";
  import NumberField from "../lib/NumberField.svelte";
  import type { Unit } from "../lib/units";
  import Gauge from "./Gauge.svelte";

  interface Props {
    name: string;
    member: Schemas["ReadMember"];
    size: Unit;
    onchange: (member: Schemas["ReadMember"]) => void;
  }
  let { name, member, size, onchange }: Props = $props();
  const sideways = $derived((member.left_mm ?? 0) !== 0 || (member.plan_deg ?? 0) !== 0);
</script>

<div class="grid gap-1">
  <Gauge {name} reading={member.side} onchange={(side) => onchange({ ...member, side })} />
  <details open={sideways}>
    <summary class="min-h-touch cursor-pointer py-2 text-sm underline underline-offset-3"
      >{name} runs sideways</summary
    >
    <div class="grid grid-cols-2 gap-2">
      <NumberField
        label="Farther left by"
        value={member.left_mm}
        unit={size}
        optional
        ontyped={(left_mm) =>
          onchange({
            ...member,
            plan_deg: null,
            left_mm,
            over_mm: left_mm === null ? null : (member.over_mm ?? 1000),
          })}
      />
      <NumberField
        label="Over a length of"
        value={member.over_mm}
        unit={size}
        optional
        ontyped={(over_mm) =>
          onchange({
            ...member,
            plan_deg: null,
            over_mm,
            left_mm: over_mm === null ? null : (member.left_mm ?? 0),
          })}
      />
    </div>
  </details>
</div>
