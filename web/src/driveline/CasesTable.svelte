<script lang="ts">
  import type { Schemas } from "../api/client";
  import VerdictMark from "../lib/VerdictMark.svelte";

  interface Props {
    now: Schemas["CaseOut"][];
    tried: Schemas["CaseOut"][] | null;
  }
  let { now, tried }: Props = $props();
</script>

<section aria-labelledby="cases">
  <h2 id="cases">At every axle position</h2>
  <div class="relative overflow-x-auto" tabindex="-1">
    <table class="w-full min-w-[30rem]">
      <thead
        ><tr class="quiet text-left"
          ><th scope="col">Axle position</th><th scope="col">rpm</th><th scope="col">Joints</th><th
            scope="col">Equivalent angle</th
          ><th scope="col">Share of the nearest limit</th></tr
        ></thead
      >
      <tbody>
        {#each now as one, index (index)}
          {#each [one, ...(tried?.[index] ? [tried[index]] : [])] as each, which (which)}
            <tr class={which === 0 ? "border-line border-t" : ""}>
              <th scope="row" class="py-1 text-left font-normal"
                >{which === 0 ? one.name : "with the remedy"}</th
              >
              <td>{which === 0 ? one.rpm.toFixed(0) : ""}</td>
              <td>{each.state.joint_angle_deg.map((angle) => `${angle.toFixed(1)}°`).join(", ")}</td>
              <td class="figure text-lg">{each.state.b_eq_deg.toFixed(1)}°</td>
              <td class="whitespace-nowrap"
                ><span class="inline-flex items-center gap-1.5"
                  ><VerdictMark verdict={each.within ? "in" : "out"} size={20} />
                  {(100 * each.use).toFixed(0)} % {each.within ? "in" : "out"}</span
                ></td
              >
            </tr>
          {/each}
        {/each}
      </tbody>
    </table>
  </div>
  <p class="quiet text-sm">
    Bump, droop and wind-up on full drive are judged at a lower speed than ride height, and with the torsional
    limit of less sensitive vehicles.
  </p>
</section>
