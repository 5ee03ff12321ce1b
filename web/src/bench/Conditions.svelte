<script lang="ts">
  import type { Bench, Trial } from "../api/client";

  interface Props {
    bench: Bench;
    trial: Trial;
    mayRecord: boolean;
    busy: boolean;
    onconfirm: () => void;
  }
  let { bench, trial, mayRecord, busy, onconfirm }: Props = $props();
  const looked = $derived([
    trial.is_final
      ? "Seal, new nut and sleeve or spacer in"
      : `No seal; ${trial.preload_part === "nothing" ? "no sleeve, a light preload without one" : trial.preload_part_label}`,
    trial.bearings === "set_up" ? "Set-up bearings, slinger in place" : "Bearings home, slinger in place",
    "Shims flat, clean, each measured",
    "Caps on their own sides, full torque",
    "No play in pinion or carrier",
    bench.carrier_method === "adjusters"
      ? "Last turn of each adjuster inward"
      : "Carrier seated on its shims",
    "Turned several times to seat",
  ]);
</script>

<section class="bg-base-200 mb-5 px-4 py-3" aria-labelledby="conditions">
  <h2 id="conditions">Before these readings count</h2>
  <ul class="mt-1 grid list-disc gap-x-8 pl-5 sm:grid-cols-2 lg:grid-cols-3">
    {#each looked as one (one)}<li>{one}</li>{/each}
  </ul>
  {#if mayRecord}
    <button class="btn btn-primary mt-3" disabled={busy} onclick={onconfirm}>Looked at all of it: yes</button>
  {/if}
</section>
