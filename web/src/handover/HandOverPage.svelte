<script lang="ts">
  import { ask, client, sentence, type Answer, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import type { Unwritten } from "../lib/envelope";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import { writeOnce } from "../lib/writes";
  import { route } from "../routes";

  const session = getSession();
  const { id } = route.getParams("/jobs/:id/hand-over");
  const params = { path: { job_id: id } };
  const unanswered = new UnansweredIds();
  const page = `/api/v1/jobs/${id}/hand-over`;
  let shown = $state.raw<Schemas["HandOverOut"] | null>(null);
  let wrong = $state<string | null>(null);
  let backwards = $state(false);
  let busy = $state(false);
  let drawn = $state(0); // the page inside is drawn again after each change
  let given = $state<Unwritten<Schemas["HandOverIn"]>>({
    odometer: "",
    received_by: "",
    not_done: "",
    guarantee: "",
    old_parts: "",
    come_back: "",
    sure: false,
  });

  function took(answer: Answer<Schemas["HandOverOut"]>): boolean {
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind !== "done") return false;
    shown = answer.value;
    drawn += 1;
    return true;
  }
  async function load() {
    took(await ask(client.GET("/api/v1/jobs/{job_id}/hand-over", { params })));
  }
  async function give(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const answer = await writeOnce(unanswered, "hand-over", $state.snapshot(given), (body) =>
      client.POST("/api/v1/jobs/{job_id}/hand-over", { params, body }),
    );
    busy = false;
    backwards = answer.kind === "refused" && answer.refused.code === "odometer_backwards";
    took(answer);
  }
  function print() {
    document.querySelector<HTMLIFrameElement>("#paper")?.contentWindow?.print();
  }
  void load();
</script>

<svelte:head><title>Hand-over · Amber Pinion</title></svelte:head>
{#if shown}
  <p><a href={`/jobs/${id}`}>Job {shown.number}, {shown.vehicle}</a></p>
  <div class="mb-4 grid gap-x-10 gap-y-4 lg:grid-cols-[22rem_minmax(0,1fr)]">
    <div class="grid content-start gap-4">
      <h1>Hand-over</h1>
      {#if shown.at}
        <p>
          <strong>Handed over to {shown.received_by}</strong>, {when(shown.at)}, by {shown.by_name}{shown.by_file
            ? ", as the imported file says"
            : ""}.
        </p>
      {:else if !shown.signed}
        <p>Not every piece of work is signed off yet. This is how the page looks now.</p>
      {:else if session.me?.may.edit_job}
        <form class="grid gap-3" onsubmit={give}>
          <Field
            label="Odometer (km)"
            hint={shown.last_km === null ? "" : `Last: ${Math.round(shown.last_km)} km`}
          >
            <input
              class="input w-full"
              inputmode="decimal"
              autocomplete="off"
              maxlength="40"
              required
              bind:value={given.odometer}
              oninput={() => ((given.sure = false), (backwards = false))}
            />
          </Field>
          <Field label="Received by">
            <input class="input w-full" maxlength="120" required bind:value={given.received_by} />
          </Field>
          <Field label="Found and not done (optional)">
            <textarea class="textarea w-full" maxlength="2000" bind:value={given.not_done}></textarea>
          </Field>
          <Field label="Come back for (optional)">
            <input class="input w-full" maxlength="200" bind:value={given.come_back} />
          </Field>
          <Field label="Guarantee, and what ends it (optional)">
            <input class="input w-full" maxlength="2000" bind:value={given.guarantee} />
          </Field>
          <Field label="Old parts (optional)">
            <input class="input w-full" maxlength="200" bind:value={given.old_parts} />
          </Field>
          <Notice text={wrong} />
          <div class="flex flex-wrap gap-2">
            <button class="btn btn-primary" disabled={busy}>Hand over</button>
            {#if backwards}
              <button class="btn btn-neutral" disabled={busy} onclick={() => (given.sure = true)}
                >Hand over with this odometer</button
              >
            {/if}
          </div>
        </form>
      {/if}
      <section aria-labelledby="downloads">
        <h2 id="downloads" class="mb-1">Downloads</h2>
        <div class="flex flex-wrap gap-2">
          <a class="btn btn-plain" href={`${page}.pdf`} download>Hand-over as PDF</a>
          {#if shown.at}<a class="btn btn-plain" href={`${page}.ics`} download>Dates for a calendar</a>{/if}
          <button class="btn btn-plain" onclick={print}>Print</button>
        </div>
      </section>
      {#if shown.follow_ups.length > 0}
        <section aria-labelledby="follow-ups">
          <h2 id="follow-ups" class="mb-1">Follow-ups</h2>
          <ul>
            {#each shown.follow_ups as one (one.id)}
              <li class="border-line border-b py-1">
                {one.text}
                <span class="quiet block text-sm"
                  >{one.ended === null
                    ? "open"
                    : `${one.ended === "done" ? "done" : "did not come"}, ${one.by_name}`}</span
                >
              </li>
            {/each}
          </ul>
        </section>
      {/if}
    </div>
    {#key drawn}
      <iframe
        id="paper"
        title="Hand-over page"
        src={`${page}.html`}
        class="border-line h-[80vh] w-full border bg-white"
      ></iframe>
    {/key}
  </div>
{:else}
  <Notice text={wrong} />
{/if}
