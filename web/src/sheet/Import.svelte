<script lang="ts">
  import { ask, client, sentence, upload } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { navigate } from "../routes";

  let files = $state<FileList | null>(null);
  let wrong = $state<string | null>(null);
  let busy = $state(false);
  interface Alike {
    id: string;
    name: string;
    owner: string;
    registration: string;
  }
  /** Vehicles here that look the same as the file's, where that was asked. */
  let alike = $state.raw<Alike[]>([]);
  let vehicle = $state("");
  const unanswered = new UnansweredIds();

  async function take(event: SubmitEvent) {
    event.preventDefault();
    const file = files?.[0];
    if (!file) {
      wrong = "Choose a job file first.";
      return;
    }
    busy = true;
    const key = `${file.name}/${file.size}/${file.lastModified}/${vehicle}`;
    const fields = { ...unanswered.envelope(key), vehicle };
    // the schema calls a file a string; a form carries it as it is
    const call = client.POST("/api/v1/import", {
      body: { ...fields, file: "" },
      bodySerializer: () => upload(file, fields),
    });
    const answer = await ask(call);
    unanswered.answered(key, answer);
    busy = false;
    if (answer.kind === "done") await navigate("/jobs/:id", { params: { id: answer.value.job_id } });
    else {
      wrong = sentence(answer);
      const asked = answer.kind === "refused" && answer.refused.code === "same_vehicle";
      alike = asked ? (answer.refused.current as { vehicles: Alike[] }).vehicles : [];
    }
  }
  function chosen() {
    alike = [];
    vehicle = "";
    wrong = null;
  }
</script>

<svelte:head><title>Import a job · Amber Pinion</title></svelte:head>
<h1 class="mb-2">Import a job</h1>
<p class="mb-5 max-w-prose">
  A job downloaded as JSON, or as a zip with the pictures of its parts, is imported whole: readings, trials
  and run sheet. It is imported as it is or not at all. Names and dates stay those of the file. A sign-off in
  the file is shown as said by the file; the work has to be signed off here again.
</p>
<form class="grid max-w-xl gap-4" onsubmit={take}>
  <Field label="Job file (.json)"
    ><input
      class="file-input w-full"
      type="file"
      accept=".json,application/json,.zip,application/zip"
      bind:files
      onchange={chosen}
    /></Field
  >
  <Notice text={wrong} />
  {#if alike.length > 0}
    <fieldset class="grid gap-1">
      <legend class="label-text">Which vehicle is it?</legend>
      {#each alike as one (one.id)}
        <label class="min-h-touch flex items-center gap-3">
          <input type="radio" class="radio" name="vehicle" value={one.id} bind:group={vehicle} />
          <span>{[one.name, one.owner, one.registration].filter(Boolean).join(", ")}</span>
        </label>
      {/each}
      <label class="min-h-touch flex items-center gap-3">
        <input type="radio" class="radio" name="vehicle" value="new" bind:group={vehicle} />
        <span>Another vehicle</span>
      </label>
    </fieldset>
  {/if}
  <button class="btn btn-primary justify-self-start" disabled={busy}>{busy ? "Reading" : "Import"}</button>
</form>
