<script lang="ts">
  import type { Schemas, Work } from "../api/client";
  import { getSession } from "../lib/context";
  import { when } from "../lib/quantity";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import type { JobOnScreen } from "./job.svelte";

  interface Props {
    on: JobOnScreen;
    work: Work;
    newer: Schemas["SheetRevisionOut"];
  }
  let { on, work, newer }: Props = $props();
  const session = getSession();
  let asking = $state(false);
  const mayAdopt = $derived((session.me?.may.record ?? false) && work.signed_off_at === null);
</script>

<section class="bg-base-200 mt-4 px-4 py-3" aria-labelledby="newer-sheet">
  <h2 id="newer-sheet">The spec sheet has changed since this work was booked</h2>
  <p>
    This work is judged by revision {work.sheet_revision} of {work.family_name}. Revision {newer.number} is newer:
    {newer.by_name}, {when(newer.at)}{newer.reason ? `, ${newer.reason.toLowerCase()}` : ""}.
  </p>
  <ul class="mt-1 list-disc pl-5">
    {#each newer.changes as change (change)}<li>{change}</li>{/each}
  </ul>
  {#if mayAdopt}
    <button class="btn btn-plain mt-2" onclick={() => (asking = true)}
      >Change to revision {newer.number}</button
    >
  {/if}
</section>
{#if asking}
  <ReasonDialog
    title={`Change to revision ${newer.number}`}
    ask="Why? All readings so far are judged by the new revision from now on, and the build sheet says so."
    wrong={on.wrong}
    onclose={() => (asking = false)}
    onreason={async (reason) => {
      if (await on.adoptSheet(newer.number, reason)) asking = false;
    }}
  />
{/if}
