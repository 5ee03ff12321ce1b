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
        ? "; no whole tooth comes nearer than it stands"
        : `; set over by ${Math.abs(clocking.teeth)} whole ${Math.abs(clocking.teeth) === 1 ? "tooth" : "teeth"} ${clocking.teeth > 0 ? "" : "anti"}clockwise, to ${angle(clocking.b_eq_teeth_deg)}`,
  );
</script>

<p>
  {#if clocking.indifferent}Setting the forks of shaft {shaft} over changes nothing here.
  {:else if now === best}The forks of shaft {shaft} stand as evenly as they can.
  {:else if clocking.clock_deg != null}
    Shaft {shaft} would run most evenly with its rear fork {angle(clocking.clock_deg)} clockwise of the front one,
    looking to the axle: its equivalent angle goes from {now} to {best}{byTeeth}.
  {/if}
</p>
