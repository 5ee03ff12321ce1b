<script lang="ts">
  import type { Trial } from "../api/client";

  interface Props {
    trial: Trial;
    mayRecord: boolean;
    busy: boolean;
    onconfirm: () => void;
  }
  let { trial, mayRecord, busy, onconfirm }: Props = $props();
</script>

<section class="bg-base-200 mb-5 px-4 py-3" aria-labelledby="conditions">
  <h2 id="conditions">Check before these readings count</h2>
  <ul class="mt-1 grid list-disc gap-x-8 pl-5 sm:grid-cols-2 lg:grid-cols-3">
    {#each trial.to_confirm as one (one)}<li>{one}</li>{/each}
  </ul>
  {#if mayRecord}
    <button class="btn btn-primary mt-3" disabled={busy} onclick={onconfirm}>Confirm all</button>
  {/if}
</section>
