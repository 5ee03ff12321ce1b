<script lang="ts">
  import type { Schemas } from "../api/client";
  import { DRAWINGS } from "./drawings";

  interface Props {
    terms: Schemas["TermOut"][];
  }
  let { terms }: Props = $props();
</script>

<dl class="grid gap-x-10 gap-y-5 md:grid-cols-2">
  {#each terms as term (term.code)}
    {@const drawing = DRAWINGS[term.drawing]}
    <div class="grid grid-cols-[6rem_minmax(0,1fr)] gap-x-4" id={`term-${term.code}`}>
      {#if drawing}
        <svg viewBox="0 0 120 72" class="mt-1 w-full" aria-hidden="true" fill="none" stroke="currentColor">
          <path d={drawing.line} stroke-width="1.6" opacity=".6" />
          <path d={drawing.part} stroke-width="3" stroke-linejoin="round" />
        </svg>
      {:else}<span></span>{/if}
      <div>
        <dt class="figure text-lg">{term.name}</dt>
        <dd>{term.meaning}</dd>
        {#if term.also.length > 0}<dd class="quiet text-sm">Also called: {term.also.join(", ")}.</dd>{/if}
        <dd class="quiet text-sm">Used at: {term.where}.</dd>
      </div>
    </div>
  {/each}
</dl>
