<script lang="ts">
  import type { Job } from "../api/client";
  import Dialog from "../lib/Dialog.svelte";

  type Card = Pick<
    Job,
    "customer" | "vehicle" | "complaint" | "use" | "use_note" | "waits_for" | "waits_note"
  >;
  interface Props {
    mine: Card;
    theirs: Job;
    onmine: () => void;
    ontheirs: () => void;
    onclose: () => void;
  }
  let { mine, theirs, onmine, ontheirs, onclose }: Props = $props();

  const names: { field: keyof Card; name: string }[] = [
    { field: "customer", name: "Customer" },
    { field: "vehicle", name: "Vehicle" },
    { field: "complaint", name: "Complaint" },
    { field: "use", name: "Use" },
    { field: "use_note", name: "Note on use" },
    { field: "waits_for", name: "Waits for" },
    { field: "waits_note", name: "Waits for (details)" },
  ];
  const different = $derived(names.filter(({ field }) => mine[field] !== theirs[field]));
</script>

<Dialog title="Somebody else changed this job" {onclose}>
  {#if different.length === 0}
    <p class="mb-4">What is stored now is the same as yours.</p>
  {:else}
    <table class="mb-4 w-full">
      <thead>
        <tr class="text-left"
          ><th scope="col"></th><th scope="col">Yours</th><th scope="col">Stored now</th></tr
        >
      </thead>
      <tbody>
        {#each different as { field, name } (field)}
          <tr class="border-line border-t align-top">
            <th scope="row" class="quiet py-1.5 pr-3 text-left font-normal">{name}</th>
            <td class="py-1.5 pr-3">{mine[field] || "nothing"}</td>
            <td class="py-1.5">{theirs[field] || "nothing"}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  <div class="flex flex-wrap gap-2">
    <button class="btn btn-neutral" onclick={onmine}>Keep mine</button>
    <button class="btn btn-plain" onclick={ontheirs}>Keep theirs</button>
    <button class="btn btn-plain" onclick={onclose}>Cancel</button>
  </div>
</Dialog>
