<script lang="ts">
  import type { Job, Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import type { Unwritten } from "../lib/envelope";
  import Field from "../lib/Field.svelte";
  import { day, when } from "../lib/quantity";
  import { USES, WAITS } from "../lib/words";
  import ConflictDialog from "./ConflictDialog.svelte";
  import type { JobOnScreen } from "./job.svelte";

  interface Props {
    on: JobOnScreen;
  }
  let { on }: Props = $props();
  const session = getSession();

  type Draft = Pick<
    Job,
    "customer" | "vehicle" | "complaint" | "use" | "use_note" | "waits_for" | "waits_note"
  >;
  let draft = $state<(Draft & { version: number }) | null>(null);
  let theirs = $state.raw<Job | null>(null);
  const job = $derived(on.job);
  const mayEdit = $derived((session.me?.may.edit_job ?? false) && job?.signed_off_at === null);

  function begin() {
    if (job === null) return;
    const { customer, vehicle, complaint, use, use_note, waits_for, waits_note, version } = job;
    draft = { customer, vehicle, complaint, use, use_note, waits_for, waits_note, version };
  }
  async function save(version?: number) {
    if (draft === null) return;
    const body: Unwritten<Schemas["JobEdit"]> = {
      ...$state.snapshot(draft),
      version: version ?? draft.version,
    };
    const result = await on.edit(body);
    theirs = result.theirs;
    if (result.saved) draft = null;
  }
  async function keepTheirs() {
    theirs = null;
    draft = null;
    on.wrong = null;
    await on.load();
  }
</script>

{#if job}
  <section aria-labelledby="card" class="rule-top pt-3">
    <div class="flex items-baseline justify-between">
      <h2 id="card">Job</h2>
      {#if mayEdit && draft === null}<button class="btn btn-plain btn-sm min-h-touch" onclick={begin}
          >Edit</button
        >{/if}
    </div>
    {#if draft === null}
      <dl class="mt-2 grid grid-cols-[6.5rem_1fr] gap-x-3 gap-y-1.5">
        <dt class="quiet">Customer</dt>
        <dd>{job.customer}</dd>
        <dt class="quiet">Complaint</dt>
        <dd>{job.complaint}</dd>
        <dt class="quiet">Use</dt>
        <dd>{USES.find((one) => one.value === job.use)?.word}{job.use_note ? `. ${job.use_note}` : ""}</dd>
        <dt class="quiet">Vehicle</dt>
        <dd><a href={`/vehicles/${job.vehicle_id}`}>{job.vehicle}</a></dd>
        {#if on.work}
          <dt class="quiet">Spec sheet</dt>
          <dd>
            {#if on.work.sheet_revision === null}
              None: nothing is judged by a sheet
            {:else}
              {on.work.family_name}, sheet revision {on.work.sheet_revision}
              {#if on.work.is_sample}<span class="sample">Sample sheet</span>{/if}
              <span class="quiet block text-sm">{on.work.family_build}</span>
            {/if}
          </dd>
        {/if}
        {#if job.promised_on}
          <dt class="quiet">Promised</dt>
          <dd>{day(job.promised_on)}</dd>
        {/if}
        <dt class="quiet">Booked</dt>
        <dd>{when(job.created_at)}, {job.created_by_name}</dd>
        {#if job.imported_at}
          <dt class="quiet">Imported</dt>
          <dd>
            {when(job.imported_at)}, by {job.imported_by_name}; names and dates are the file's. {job.imported_note}
          </dd>
        {/if}
      </dl>
    {:else}
      <form
        class="mt-2 grid gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <Field label="Customer"
          ><input class="input w-full" maxlength="200" required bind:value={draft.customer} /></Field
        >
        <Field label="Vehicle"
          ><input class="input w-full" maxlength="200" required bind:value={draft.vehicle} /></Field
        >
        <Field label="Complaint"
          ><textarea class="textarea w-full" maxlength="2000" required bind:value={draft.complaint}
          ></textarea></Field
        >
        <Field label="Use">
          <select class="select w-full" bind:value={draft.use}>
            {#each USES as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
          </select>
        </Field>
        <Field label="Waits for">
          <select class="select w-full" bind:value={draft.waits_for}>
            {#each WAITS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
          </select>
        </Field>
        <Field label="Details, until when"
          ><input class="input w-full" maxlength="200" bind:value={draft.waits_note} /></Field
        >
        <div class="flex gap-2">
          <button class="btn btn-neutral" disabled={on.busy}>Save</button>
          <button type="button" class="btn btn-plain" onclick={() => (draft = null)}>Cancel</button>
        </div>
      </form>
    {/if}
  </section>
  {#if theirs !== null && draft !== null}
    <ConflictDialog
      mine={draft}
      {theirs}
      onmine={() => void save(theirs?.version)}
      ontheirs={() => void keepTheirs()}
      onclose={() => (theirs = null)}
    />
  {/if}
{/if}
