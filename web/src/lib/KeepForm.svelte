<script lang="ts">
  import Notice from "./Notice.svelte";
  import TypedField from "./TypedField.svelte";

  interface Props {
    disabled: boolean;
    /** null when it was kept, else the sentence */
    onkeep: (title: string) => Promise<string | null>;
  }
  let { disabled, onkeep }: Props = $props();
  let title = $state("");
  let wrong = $state<string | null>(null);

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    wrong = await onkeep(title);
    if (wrong === null) title = "";
  }
</script>

<form class="mt-3 flex max-w-2xl flex-wrap items-end gap-3" onsubmit={keep}>
  <div class="min-w-60 grow">
    <TypedField label="Title" bind:value={title} required long />
  </div>
  <button class="btn btn-plain" {disabled}>Save to this job</button>
</form>
<div class="mt-2"><Notice text={wrong} /></div>
