<script lang="ts">
  import { ask, client, sentence, type FloorJob, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import FloorRow from "./FloorRow.svelte";
  import Plan from "./Plan.svelte";
  import Today from "./Today.svelte";

  type State = FloorJob["state"];
  const session = getSession();
  const states: { value: State | ""; word: string }[] = [
    { value: "", word: "All" },
    { value: "to_sign", word: "Ready to sign" },
    { value: "in_work", word: "In work" },
    { value: "waiting", word: "Waiting" },
    { value: "booked", word: "Booked" },
    { value: "done", word: "Signed off" },
  ];

  let chosen = $state<State | "">("");
  let search = $state("");
  let page = $state(1);
  let found = $state.raw<Schemas["FloorOut"] | null>(null);
  let wrong = $state<string | null>(null);
  let asked = 0;

  async function load() {
    const mine = ++asked;
    const query = { page, search, ...(chosen === "" ? {} : { state: chosen }) };
    const answer = await ask(client.GET("/api/v1/floor", { params: { query } }));
    if (mine !== asked) return; // a later question was asked meanwhile
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") found = answer.value;
  }
  function again() {
    page = 1;
    void load();
  }
  function turn(by: number) {
    page += by;
    void load();
  }
  void load();

  // the one amber thing: the first job that somebody can put a hand to
  const upNext = $derived(found?.jobs.find((job) => job.state === "in_work" || job.state === "booked")?.id);
</script>

<svelte:head><title>Floor · Amber Pinion</title></svelte:head>
<div class="mb-4 flex flex-wrap items-end justify-between gap-3">
  <h1>Floor</h1>
  <div class="flex flex-wrap gap-2">
    <a class="btn btn-plain sm:hidden" href="/diff-bench">Diff bench</a>
    {#if session.me?.may.import_job && !session.everywhere}<a class="btn btn-plain" href="/jobs/import"
        >Import a job</a
      >{/if}
    {#if session.me?.may.edit_job && !session.everywhere}<a class="btn btn-neutral" href="/jobs/new"
        >New job</a
      >{/if}
  </div>
</div>
<div class="mb-4 flex flex-wrap items-end gap-x-6 gap-y-3">
  <fieldset class="flex flex-wrap gap-1">
    <legend class="sr-only">State</legend>
    {#each states as one (one.value)}
      <label
        class="figure min-h-touch has-checked:border-base-content flex cursor-pointer items-center border-b-4 border-transparent px-2.5 text-lg has-focus-visible:outline-3"
      >
        <input
          class="sr-only"
          type="radio"
          name="state"
          value={one.value}
          bind:group={chosen}
          onchange={again}
        />
        {one.word}
      </label>
    {/each}
  </fieldset>
  <label class="flex grow items-center gap-2 sm:max-w-xs">
    <span class="sr-only">Search by customer, vehicle or number</span>
    <input
      class="input w-full"
      type="search"
      placeholder="Customer, vehicle, number"
      bind:value={search}
      oninput={again}
    />
  </label>
</div>
{#if search === "" && page === 1 && chosen === ""}
  <Today />
  {#if !session.everywhere}<Plan />{/if}
{/if}
<Notice text={wrong} />
{#if found}
  {#if found.jobs.length === 0}
    <p class="rule-top py-6">
      {search || chosen
        ? "No job matches. Clear the search or choose another state."
        : "No jobs yet. Add the first one: whose vehicle, which axle, what is wrong."}
    </p>
  {:else}
    <ul class="rule-top">
      {#each found.jobs as job (job.id)}
        <FloorRow {job} next={job.id === upNext} everywhere={session.everywhere} />
      {/each}
    </ul>
  {/if}
  {#if found.more || found.page > 1}
    <nav class="mt-4 flex gap-2" aria-label="Pages">
      <button class="btn btn-plain" disabled={page === 1} onclick={() => turn(-1)}>Previous page</button>
      <button class="btn btn-plain" disabled={!found.more} onclick={() => turn(1)}>Next page</button>
    </nav>
  {/if}
{/if}
