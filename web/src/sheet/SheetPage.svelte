<script lang="ts">
  import { ask, client, sentence, type Answer, type Sheet } from "../api/client";
  import { getSession } from "../lib/context";
  import { UnansweredIds } from "../lib/ids";
  import FileLink from "../lib/FileLink.svelte";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import { writeOnce } from "../lib/writes";
  import { route } from "../routes";

  const session = getSession();
  const { id, work } = route.getParams("/jobs/:id/work/:work/sheet");
  const params = { path: { work_id: work } };
  const unanswered = new UnansweredIds();
  let sheet = $state.raw<Sheet | null>(null);
  let wrong = $state<string | null>(null);
  let withdrawing = $state(false);
  let drawn = $state(0); // the page inside is drawn again after each change
  const page = `/api/v1/work/${work}/sheet.html`;

  function took(answer: Answer<Sheet>): boolean {
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind !== "done") return false;
    sheet = answer.value;
    drawn += 1;
    return true;
  }
  async function load() {
    took(await ask(client.GET("/api/v1/work/{work_id}/sheet", { params })));
  }
  async function sign() {
    took(
      await writeOnce(unanswered, "sign", {}, (body) =>
        client.POST("/api/v1/work/{work_id}/sign-off", { params, body }),
      ),
    );
  }
  async function withdraw(reason: string) {
    const answer = await writeOnce(unanswered, "withdraw", { reason }, (body) =>
      client.POST("/api/v1/work/{work_id}/withdraw", { params, body }),
    );
    if (took(answer)) withdrawing = false;
  }
  function print() {
    document.querySelector<HTMLIFrameElement>("#paper")?.contentWindow?.print();
  }
  void load();
</script>

<svelte:head><title>Build sheet · Amber Pinion</title></svelte:head>
{#if sheet}
  <p><a href={`/jobs/${id}/work/${work}`}>Job {sheet.job_number}, {sheet.vehicle}: {sheet.title}</a></p>
  <div class="mb-4 grid gap-x-10 gap-y-4 lg:grid-cols-[20rem_minmax(0,1fr)]">
    <div class="grid content-start gap-5">
      <h1>Build sheet</h1>
      <section aria-labelledby="signing">
        <h2 id="signing" class="mb-1">{sheet.signed ? "Signed off" : "Not signed off"}</h2>
        {#if sheet.imported_note}<p class="border-out mb-2 border-l-4 pl-3">{sheet.imported_note}</p>{/if}
        {#each sheet.sign_offs as one (one.id)}
          <div class="mb-2">
            <p>
              {#if one.origin === "file"}<strong>Said by the file, not signed here:</strong>{/if}
              {one.by_name}, {when(one.at)}.
              {#if one.withdrawn_reason}<em>Taken back: {one.withdrawn_reason}</em>{:else}<span class="quiet"
                  >{one.statement}</span
                >{/if}
            </p>
            {#if one.document}
              <details class="text-sm">
                <summary class="min-h-touch cursor-pointer py-2">What was signed</summary>
                <p class="quiet">
                  {one.document.rule
                    ? "Rule: a foreman who did not measure signs off."
                    : "Rule: the person who measured may sign off."}
                  Calculated by version {one.document.core_version}{one.document.reconstructed
                    ? "; reconstructed from the records, because signed sheets were not stored at that time"
                    : ""}.
                </p>
                <p class="quiet break-all">SHA-256 {one.document.hash}</p>
              </details>
              {#if one.document.changed}
                <p class="text-out">
                  <strong>The text was changed after it was signed: the hash does not match.</strong>
                </p>
              {/if}
            {/if}
          </div>
        {/each}
        {#if !sheet.signed}
          {#if sheet.cannot_sign}
            <p>{sheet.cannot_sign}</p>
          {:else}
            <p class="mb-2">
              By signing off you confirm that the readings of the final trial, the hold points and the record
              are complete.
            </p>
            <button class="btn btn-primary" onclick={() => void sign()}>Sign off</button>
          {/if}
        {:else if session.me?.role === "foreman"}
          <button class="btn btn-plain mt-2" onclick={() => (withdrawing = true)}
            >Take back the sign-off</button
          >
        {/if}
        <Notice text={wrong} />
      </section>
      <section aria-labelledby="files">
        <h2 id="files" class="mb-2">Downloads</h2>
        <div class="grid gap-2">
          <a class="btn btn-neutral justify-start" href={`/api/v1/work/${work}/sheet.pdf`} download
            >Build sheet as PDF</a
          >
          <button class="btn btn-plain justify-start" onclick={print}>Print</button>
          <FileLink class="btn btn-plain justify-start" href={`/api/v1/jobs/${id}/job.json`}
            >Whole job as JSON</FileLink
          >
          <FileLink class="btn btn-plain justify-start" href={`/api/v1/jobs/${id}/job.zip`}
            >Whole job with pictures of parts (zip)</FileLink
          >
          <FileLink class="btn btn-plain justify-start" href={`/api/v1/work/${work}/readings.csv`}
            >Readings as CSV</FileLink
          >
        </div>
      </section>
    </div>
    {#key drawn}
      <iframe
        id="paper"
        src={page}
        title={`Build sheet of job ${sheet.job_number}`}
        class="border-base-content h-[75dvh] min-h-[32rem] w-full border-2 bg-white"
      ></iframe>
    {/key}
  </div>
  {#if withdrawing}
    <ReasonDialog
      title="Take back the sign-off"
      ask="Why? Both stay on the record."
      {wrong}
      onclose={() => (withdrawing = false)}
      onreason={(reason) => void withdraw(reason)}
    />
  {/if}
{:else}
  <Notice text={wrong} />
{/if}
