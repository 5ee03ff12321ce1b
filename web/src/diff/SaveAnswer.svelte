<script lang="ts">
  import Notice from "../lib/Notice.svelte";
  import TypedField from "../lib/TypedField.svelte";
  import type { DiffBench } from "./bench.svelte";

  interface Props {
    on: DiffBench;
    /** the step of the run sheet that it is measured for, or none */
    step: string;
    back: string;
  }
  let { on, step, back }: Props = $props();
  let title = $derived(on.tool?.title ?? "");
  let wrong = $state<string | null>(null);
  let kept = $state("");
  const ready = $derived(on.answer?.answer != null && on.answer.tool === on.code);

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const named = title;
    wrong = await on.keep(named, step);
    kept = wrong === null ? named : "";
  }
</script>

<form class="mt-3 flex max-w-2xl flex-wrap items-end gap-3" onsubmit={keep}>
  <div class="min-w-52 grow"><TypedField label="Title" bind:value={title} required long /></div>
  <button class={["btn", ready ? "btn-primary" : "btn-plain"]} disabled={!ready || on.busy}
    >{step ? "Save to the step" : "Save to this job"}</button
  >
</form>
{#if kept}
  <p class="mt-1" role="status">
    Saved: {kept}. {#if step}<a href={`${back}#step-${step}`}>Back to the run sheet</a>{/if}
  </p>
{/if}
<Notice text={wrong} />
