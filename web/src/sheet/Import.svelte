<script lang="ts">
  import { ask, client, sentence, upload } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { navigate } from "../routes";

  let files = $state<FileList | null>(null);
  let wrong = $state<string | null>(null);
  let busy = $state(false);
  const unanswered = new UnansweredIds();

  async function take(event: SubmitEvent) {
    event.preventDefault();
    const file = files?.[0];
    if (!file) {
      wrong = "Choose a job file first.";
      return;
    }
    busy = true;
    const key = `${file.name}/${file.size}/${file.lastModified}`;
    const fields = unanswered.envelope(key);
    // the schema calls a file a string; a form carries it as it is
    const call = client.POST("/api/v1/import", {
      body: { ...fields, file: "" },
      bodySerializer: () => upload(file, fields),
    });
    const answer = await ask(call);
    unanswered.answered(key, answer);
    busy = false;
    if (answer.kind === "done") await navigate("/jobs/:id", { params: { id: answer.value.job_id } });
    else wrong = sentence(answer);
  }
</script>

<svelte:head><title>Import a job · Amber Pinion</title></svelte:head>
<h1 class="mb-2">Import a job</h1>
<p class="mb-5 max-w-prose">
  A job downloaded as JSON is imported whole: readings, trials and run sheet. It is imported as it is or not
  at all. Names and dates stay those of the file. A sign-off in the file is shown as said by the file; the
  work has to be signed off here again.
</p>
<form class="grid max-w-xl gap-4" onsubmit={take}>
  <Field label="Job file (.json)"
    ><input class="file-input w-full" type="file" accept=".json,application/json" bind:files /></Field
  >
  <Notice text={wrong} />
  <button class="btn btn-primary justify-self-start" disabled={busy}>{busy ? "Reading" : "Import"}</button>
</form>
