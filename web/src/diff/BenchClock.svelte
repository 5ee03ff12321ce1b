<script lang="ts">
  import { client, type Schemas } from "../api/client";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import { sendOnce } from "../lib/writes";

  interface Props {
    clock: Schemas["BenchClockOut"];
    /** the run sheet */
    back: string;
    /** the piece of work, where this person may write to it */
    work: string | null | undefined;
    onbegun: () => void;
  }
  let { clock, back, work, onbegun }: Props = $props();
  const ids = new UnansweredIds();
  let wrong = $state<string | null>(null);
  let busy = $state(false);
  const over = $derived(clock.until !== null && new Date(clock.until) <= new Date());

  async function begin() {
    if (!work) return;
    busy = true;
    const path = { work_id: work, code: clock.step };
    wrong = await sendOnce(ids, { minutes: null, waits_for: "parts" as const, note: "" }, (body) =>
      client.POST("/api/v1/work/{work_id}/steps/{code}/begin", { params: { path }, body }),
    );
    busy = false;
    if (wrong === null) onbegun();
  }
</script>

<div
  class="border-base-content bg-base-200 mb-2 flex flex-wrap items-center gap-x-3 gap-y-1 border-l-4 px-3 py-1"
>
  <p>
    <strong>{clock.title}:</strong>
    {#if clock.running}{clock.until
        ? `${over ? "ready since" : "ready"} ${when(clock.until)}`
        : "running"}.{:else}{clock.minutes} min, not started.{/if}
    <a href={`${back}#step-${clock.step}`}>Run sheet</a>
  </p>
  {#if !clock.running && work}
    <button
      type="button"
      class="btn btn-neutral btn-sm min-h-touch"
      disabled={busy}
      onclick={() => void begin()}>Start the clock<span class="sr-only">: {clock.title}</span></button
    >
  {/if}
</div>
<Notice text={wrong} />
