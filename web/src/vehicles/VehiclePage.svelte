<script lang="ts">
  import { ask, client, sentence, type Answer, type Vehicle, type Schemas } from "../api/client";
  import StateMark from "../floor/StateMark.svelte";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { kilometres, when } from "../lib/quantity";
  import { writeOnce } from "../lib/writes";
  import { route } from "../routes";
  import AsLeft from "./AsLeft.svelte";

  const session = getSession();
  const id = route.getParams("/vehicles/:id").id;
  const path = { path: { vehicle_id: id } };
  const unanswered = new UnansweredIds();
  let vehicle = $state.raw<Vehicle | null>(null);
  let visits = $state.raw<Schemas["VisitOut"][]>([]);
  let wrong = $state<string | null>(null);
  let odometer = $state("");
  let draft = $state<{ name: string; owner: string; registration: string; note: string } | null>(null);

  function took(answer: Answer<Vehicle>): boolean {
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") vehicle = answer.value;
    return answer.kind === "done";
  }
  async function load() {
    took(await ask(client.GET("/api/v1/vehicles/{vehicle_id}", { params: path })));
    const answer = await ask(client.GET("/api/v1/vehicles/{vehicle_id}/visits", { params: path }));
    if (answer.kind === "done") visits = answer.value;
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    if (draft === null || vehicle === null) return;
    const changes = { ...$state.snapshot(draft), version: vehicle.version };
    const answer = await writeOnce(unanswered, "vehicle", changes, (body) =>
      client.PATCH("/api/v1/vehicles/{vehicle_id}", { params: path, body }),
    );
    if (took(answer)) draft = null;
    else if (answer.kind === "refused" && answer.status === 409) {
      const said = wrong;
      await load();
      wrong = said;
    }
  }
  let backwards = $state(false);
  async function read(sure: boolean) {
    const answer = await writeOnce(unanswered, "odometer", { typed: odometer, sure }, (body) =>
      client.POST("/api/v1/vehicles/{vehicle_id}/odometer", { params: path, body }),
    );
    backwards = answer.kind === "refused" && answer.refused.code === "odometer_backwards";
    if (took(answer)) odometer = "";
  }
  void load();
</script>

<svelte:head><title>{vehicle?.name ?? "Vehicle"} · Amber Pinion</title></svelte:head>
{#if vehicle}
  {@const one = vehicle}
  <div class="mb-4 flex flex-wrap items-baseline justify-between gap-3">
    <div>
      <h1>{one.name}</h1>
      <p class="quiet">
        {one.owner}{one.registration ? `, ${one.registration}` : ""}. {one.layout_label}.
      </p>
      {#if one.note}<p>{one.note}</p>{/if}
    </div>
    {#if session.me?.may.edit_job && draft === null}
      <div class="flex gap-2">
        <a class="btn btn-neutral" href={`/jobs/new?vehicle=${one.id}`}>New job for this vehicle</a>
        <button
          class="btn btn-plain"
          onclick={() =>
            (draft = { name: one.name, owner: one.owner, registration: one.registration, note: one.note })}
          >Edit</button
        >
      </div>
    {/if}
  </div>
  <Notice text={wrong} />
  {#if draft}
    <form class="mb-6 grid max-w-xl gap-3" onsubmit={save}>
      <Field label="Vehicle"
        ><input class="input w-full" maxlength="200" required bind:value={draft.name} /></Field
      >
      <Field label="Owner"
        ><input class="input w-full" maxlength="200" required bind:value={draft.owner} /></Field
      >
      <Field label="Number plate or fleet number"
        ><input class="input w-full" maxlength="40" bind:value={draft.registration} /></Field
      >
      <Field label="Note"
        ><textarea class="textarea w-full" maxlength="2000" bind:value={draft.note}></textarea></Field
      >
      <div class="flex gap-2">
        <button class="btn btn-neutral">Save</button>
        <button type="button" class="btn btn-plain" onclick={() => (draft = null)}>Cancel</button>
      </div>
    </form>
  {/if}
  <div class="grid gap-x-12 gap-y-6 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
    <div>
      <section class="rule-top pt-3" aria-labelledby="visits">
        <h2 id="visits">Jobs</h2>
        <ul>
          {#each visits as visit (visit.job_id)}
            <li class="border-line border-b">
              <a
                class="hover:bg-base-200 grid gap-x-4 gap-y-1 py-3 sm:grid-cols-[4rem_minmax(0,1fr)_auto]"
                href={`/jobs/${visit.job_id}`}
              >
                <span class="figure text-2xl leading-none">{visit.number}</span>
                <span class="min-w-0">
                  <span class="block">{visit.complaint}</span>
                  <span class="quiet block">{visit.work.join("; ")}</span>
                  {#each visit.finals as final (final)}<span class="block">{final}</span>{/each}
                </span>
                <span>
                  <StateMark state={visit.state} word={visit.state_word} />
                  <span class="quiet block">{when(visit.booked)}</span>
                </span>
              </a>
            </li>
          {/each}
        </ul>
      </section>
      <AsLeft {visits} />
    </div>
    <div class="grid content-start gap-6">
      <section class="rule-top pt-3" aria-labelledby="in-it">
        <h2 id="in-it">Assemblies</h2>
        <dl class="mt-1 grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1.5">
          {#each one.assemblies as part (part.place)}
            <dt class="quiet">{part.label}</dt>
            <dd>
              {part.family_name ?? "not known"}{part.teeth ? `, gear set ${part.teeth}` : ""}
            </dd>
          {/each}
        </dl>
      </section>
      <section class="rule-top pt-3" aria-labelledby="odometer">
        <h2 id="odometer">Odometer</h2>
        {#if one.odometer.length === 0}<p class="quiet">No reading yet.</p>{/if}
        <ul class="mt-1 grid gap-1">
          {#each [...one.odometer].reverse() as read (read.at)}
            <li>
              <span class="figure">{kilometres(read.km)}</span>
              <span class="quiet">{when(read.at)}, {read.by_name}</span>
            </li>
          {/each}
        </ul>
        {#if session.me?.may.record}
          <form
            class="mt-3 flex flex-wrap items-end gap-2"
            onsubmit={(event) => {
              event.preventDefault();
              void read(false);
            }}
          >
            <Field label="Odometer (km)"
              ><input
                class="input w-40"
                inputmode="decimal"
                autocomplete="off"
                maxlength="40"
                required
                bind:value={odometer}
              /></Field
            >
            <button class="btn btn-neutral">Record</button>
            {#if backwards}
              <button type="button" class="btn btn-plain" onclick={() => void read(true)}
                >Record it anyway</button
              >
            {/if}
          </form>
        {/if}
      </section>
    </div>
  </div>
{:else}
  <Notice text={wrong} />
{/if}
