<script lang="ts">
  import type { Step } from "../api/client";
  import { when } from "../lib/quantity";
  import { shrunk } from "../lib/photo";
  import type { JobOnScreen } from "./job.svelte";

  interface Props {
    on: JobOnScreen;
    step: Step;
    mayRecord: boolean;
  }
  let { on, step, mayRecord }: Props = $props();

  async function add(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    const small = await shrunk(file);
    field.value = "";
    if (small === null) on.wrong = "This file cannot be opened as a picture.";
    else await on.addPhoto(step.code, small);
  }
</script>

{#if step.photos.length > 0}
  <ul class="mt-3 flex flex-wrap gap-2" aria-label="Photos of this step">
    {#each step.photos as photo, index (photo.id)}
      <li>
        <a href={`/api/v1/step-photos/${photo.id}`} target="_blank" rel="noopener"
          ><img
            class="border-line size-24 border object-cover"
            src={`/api/v1/step-photos/${photo.id}`}
            loading="lazy"
            alt={`Photo ${index + 1}, ${photo.by_name}, ${when(photo.at)}`}
          /></a
        >
      </li>
    {/each}
  </ul>
{/if}
{#if mayRecord}
  <label
    class={["btn btn-plain mt-3", on.busy && "pointer-events-none opacity-60"]}
    title={step.photo ? "Worth keeping here" : undefined}
  >
    {step.photo ? "Take a photo (worth keeping here)" : "Take a photo"}
    <input
      class="sr-only"
      type="file"
      accept="image/*"
      capture="environment"
      disabled={on.busy}
      onchange={add}
    />
  </label>
{/if}
