<script lang="ts">
  import type { Schemas } from "../api/client";
  import { dayOf } from "../lib/quantity";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { assemblies } from "./as-left";
  import Trend from "./Trend.svelte";

  interface Props {
    visits: Schemas["VisitOut"][];
  }
  let { visits }: Props = $props();
  const parts = $derived(assemblies(visits));
</script>

{#if parts.length > 0}
  <section class="rule-top pt-3" aria-labelledby="as-left">
    <h2 id="as-left">What it measured when it left</h2>
    {#each parts as part (part.place)}
      <h3 class="mt-3">{part.label}</h3>
      <div class="overflow-x-auto" tabindex="-1">
        <table class="w-full text-left">
          <thead>
            <tr>
              <th class="pr-4">Reading</th>
              {#each part.columns as column (column.work_id)}
                <th class="pr-4 whitespace-nowrap"
                  ><a href={`/jobs/${column.job_id}/work/${column.work_id}`}>{column.number}</a>, {column.at ===
                  null
                    ? "open"
                    : dayOf(column.at)}</th
                >
              {/each}
              <th class="pr-4">From the first visit on</th>
            </tr>
          </thead>
          <tbody>
            {#each part.rows as row (row.name)}
              <tr class="border-line border-t align-baseline">
                <td class="py-1 pr-4">{row.what}</td>
                {#each row.cells as cell, index (part.columns[index]?.work_id)}
                  <td class="py-1 pr-4">
                    {#if cell}
                      <span class="figure inline-flex items-center gap-1 whitespace-nowrap">
                        {#if cell.verdict !== "unknown"}<VerdictMark verdict={cell.verdict} size={18} />{/if}
                        {cell.said || "not read again"}
                      </span>
                      {#if cell.found}<span class="quiet block text-sm">found {cell.found}</span>{/if}
                    {:else}<span class="quiet">–</span>{/if}
                  </td>
                {/each}
                <td class="py-1"><Trend what={row.what} cells={row.cells} /></td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/each}
  </section>
{/if}
