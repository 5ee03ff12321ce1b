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
      wrong = "Choose the file of a job first.";
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
  A job that was taken along as JSON comes back whole: readings, trials, run sheet. It comes in as it is or
  not at all; names and dates stay those of the file. A sign-off in it is shown as what the file says: whoever
  answers for the work here signs it here.
</p>
<form class="grid max-w-xl gap-4" onsubmit={take}>
  <Field label="File of the job, .json"
    ><input class="file-input w-full" type="file" accept=".json,application/json" bind:files /></Field
  >
  <Notice text={wrong} />
  <button class="btn btn-primary justify-self-start" disabled={busy}>{busy ? "Reading" : "Import it"}</button>
</form>
