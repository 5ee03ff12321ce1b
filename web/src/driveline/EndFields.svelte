<script lang="ts">
  import type { Schemas } from "../api/client";
  import NumberField from "../lib/NumberField.svelte";
  import type { Unit } from "../lib/units";
  import type { DrivelineDesk } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    tube: Schemas["TubeIn"];
    fine: Unit;
    mass: Unit;
  }
  let { on, tube, fine, mass }: Props = $props();
</script>

<details>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold">End fittings and supports</summary>
  <div class="grid grid-cols-2 gap-2 sm:grid-cols-4">
    <NumberField
      label="End fitting length"
      value={tube.end_length_mm}
      unit={fine}
      ontyped={(value) => value !== null && on.set(() => (tube.end_length_mm = value))}
    />
    <NumberField
      label="End fitting mass, each"
      value={tube.end_mass_kg}
      unit={{ ...mass, digits: 1 }}
      ontyped={(value) => value !== null && on.set(() => (tube.end_mass_kg = value))}
    />
    <NumberField
      label="Front support stiffness (MN/m)"
      hint="gearbox tail or centre bearing; empty: not known"
      value={tube.support_front_mn_per_m}
      digits={2}
      optional
      ontyped={(value) => on.set(() => (tube.support_front_mn_per_m = value))}
    />
    <NumberField
      label="Rear support stiffness (MN/m)"
      hint="pinion nose or centre bearing; empty: not known"
      value={tube.support_rear_mn_per_m}
      digits={2}
      optional
      ontyped={(value) => on.set(() => (tube.support_rear_mn_per_m = value))}
    />
  </div>
</details>
