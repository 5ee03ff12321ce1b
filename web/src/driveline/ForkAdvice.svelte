<script lang="ts">
  import type { Schemas } from "../api/client";

  interface Props {
    shaft: number;
    clocking: Schemas["Clocking"];
  }
  let { shaft, clocking }: Props = $props();
  const angle = (value: number) => `${value.toFixed(1)}°`;
  const now = $derived(angle(clocking.b_eq_now_deg));
  const best = $derived(angle(clocking.b_eq_min_deg));
  const byTeeth = $derived(
    clocking.teeth == null || clocking.b_eq_teeth_deg == null
      ? ""
      : clocking.teeth === 0
        ? "; no whole tooth is nearer than it is now"
        : `; move it by ${Math.abs(clocking.teeth)} whole ${Math.abs(clocking.teeth) === 1 ? "tooth" : "teeth"} ${clocking.teeth > 0 ? "" : "anti"}clockwise, to ${angle(clocking.b_eq_teeth_deg)}`,
  );
</script>

<p>
  {#if clocking.indifferent}Changing the phasing of propshaft {shaft} makes no difference here.
  {:else if now === best}The phasing of propshaft {shaft} is already the best.
  {:else if clocking.clock_deg != null}
    Propshaft {shaft} would run most evenly with its rear yoke {angle(clocking.clock_deg)} clockwise of the front
    one, seen from the gearbox end. Its equivalent angle goes from {now} to {best}{byTeeth}.
  {/if}
</p>
