<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import { kilometres } from "../lib/quantity";

  const session = getSession();
  let search = $state("");
  let page = $state(1);
  let found = $state.raw<Schemas["VehiclesOut"] | null>(null);
  let wrong = $state<string | null>(null);
  let asked = 0;

  async function load() {
    const mine = ++asked;
    const answer = await ask(client.GET("/api/v1/vehicles", { params: { query: { search, page } } }));
    if (mine !== asked) return; // a later question was asked meanwhile
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") found = answer.value;
  }
  function turn(by: number) {
    page += by;
    void load();
  }
  void load();
</script>

<svelte:head><title>Vehicles · Amber Pinion</title></svelte:head>
<h1 class="mb-3">Vehicles</h1>
<label class="mb-4 grid max-w-md gap-1">
  <span class="label-text">Search by name, owner or number plate</span>
  <input
    class="input w-full"
    type="search"
    maxlength="100"
    bind:value={search}
    oninput={() => {
      page = 1;
      void load();
    }}
  />
</label>
<Notice text={wrong} />
{#if found}
  {#if found.vehicles.length === 0}
    <p>{search ? "No vehicle matches." : "No vehicles yet. The first job adds one."}</p>
  {/if}
  <ul>
    {#each found.vehicles as one (one.id)}
      <li class="border-line border-b">
        <a
          href={`/vehicles/${one.id}`}
          class="hover:bg-base-200 grid gap-x-6 gap-y-1 py-3 sm:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_12rem]"
        >
          <span class="min-w-0">
            <span class="figure block text-xl leading-tight">{one.name}</span>
            <span class="quiet block">{one.owner}{one.registration ? `, ${one.registration}` : ""}</span>
            {#if session.everywhere}<span class="quiet block">{one.shop}</span>{/if}
          </span>
          <span class="quiet">{one.layout_label}</span>
          <span>
            {one.jobs === 1 ? "1 job" : `${one.jobs} jobs`}{one.last_km === null
              ? ""
              : `, ${kilometres(one.last_km)}`}
          </span>
        </a>
      </li>
    {/each}
  </ul>
  {#if page > 1 || found.more}
    <nav class="mt-4 flex gap-2" aria-label="Pages">
      <button class="btn btn-plain" disabled={page === 1} onclick={() => turn(-1)}>Previous page</button>
      <button class="btn btn-plain" disabled={!found.more} onclick={() => turn(1)}>Next page</button>
    </nav>
  {/if}
{/if}
