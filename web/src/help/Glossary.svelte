<script lang="ts">
  import type { Schemas } from "../api/client";
  import { DRAWINGS } from "./drawings";

  interface Props {
    terms: Schemas["TermOut"][];
    /** below what stands over the list */
    heading?: "h2" | "h3";
  }
  let { terms, heading = "h3" }: Props = $props();
</script>

<ul class="grid gap-x-10 gap-y-5 md:grid-cols-2">
  {#each terms as term (term.code)}
    {@const drawing = DRAWINGS[term.drawing]}
    <li class="grid grid-cols-[6rem_minmax(0,1fr)] gap-x-4" id={`term-${term.code}`}>
      {#if drawing}
        <svg viewBox="0 0 120 72" class="mt-1 w-full" aria-hidden="true" fill="none" stroke="currentColor">
          <path d={drawing.line} stroke-width="1.6" opacity=".6" />
          <path d={drawing.part} stroke-width="3" stroke-linejoin="round" />
        </svg>
      {:else}<span></span>{/if}
      <div>
        <svelte:element this={heading} class="figure text-lg">{term.name}</svelte:element>
        <p>{term.meaning}</p>
        {#if term.also.length > 0}<p class="quiet text-sm">Also called: {term.also.join(", ")}.</p>{/if}
        <p class="quiet text-sm">Used at: {term.where}.</p>
      </div>
    </li>
  {/each}
</ul>
