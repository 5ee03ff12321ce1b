<script lang="ts">
  import { ask, client, sentence } from "../api/client";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { navigate } from "../routes";

  let files = $state<FileList | null>(null);
  let wrong = $state<string | null>(null);
  let busy = $state(false);

  async function take(event: SubmitEvent) {
    event.preventDefault();
    const file = files?.[0];
    if (!file) {
      wrong = "Choose the file of a job first.";
      return;
    }
    busy = true;
    const body = new FormData();
    body.append("file", file);
    // the schema calls a file a string; a form carries it as it is
    const call = client.POST("/api/v1/import", { body: { file: "" }, bodySerializer: () => body });
    const answer = await ask(call);
    busy = false;
    if (answer.kind === "done") await navigate("/jobs/:id", { params: { id: answer.value.job_id } });
    else wrong = sentence(answer);
  }
</script>

<svelte:head><title>Import a job · Amber Pinion</title></svelte:head>
<h1 class="mb-2">Import a job</h1>
<p class="mb-5 max-w-prose">
  A job that was taken along as JSON comes back whole: readings, trials, run sheet, sign-offs. It comes in as
  it is or not at all; names and dates stay those of the file.
</p>
<form class="grid max-w-xl gap-4" onsubmit={take}>
  <Field label="File of the job, .json"
    ><input class="file-input w-full" type="file" accept=".json,application/json" bind:files /></Field
  >
  <Notice text={wrong} />
  <button class="btn btn-primary justify-self-start" disabled={busy}>{busy ? "Reading" : "Import it"}</button>
</form>
