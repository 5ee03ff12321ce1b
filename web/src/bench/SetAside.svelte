<script lang="ts">
  import { degrees } from "../lib/quantity";
  import type { BenchOnScreen } from "./bench.svelte";

  interface Props {
    on: BenchOnScreen;
  }
  let { on }: Props = $props();
</script>

{#if on.held}
  <p class="border-line bg-base-200 mb-3 border-l-4 px-3 py-1.5" role="status">{on.held}</p>
{/if}
{#if on.aside.length > 0}
  <section class="border-out bg-base-200 mb-4 border-l-4 px-3 py-2" aria-labelledby="set-aside">
    <h2 id="set-aside">Not stored</h2>
    <ul class="grid gap-2">
      {#each on.aside as one (one.waiting.client_id)}
        <li class="flex flex-wrap items-center gap-x-3 gap-y-1">
          <span class="figure text-lg">{one.waiting.typed} at {degrees(one.waiting.angle_deg)}</span>
          <span class="min-w-0 flex-1">{one.text}</span>
          <button class="btn btn-plain btn-sm min-h-touch" onclick={() => on.retypeAside(one)}>Edit</button>
          <button class="btn btn-plain btn-sm min-h-touch" onclick={() => on.dropAside(one)}>Discard</button>
        </li>
      {/each}
    </ul>
  </section>
{/if}
