<script lang="ts">
  import { ask, client, sentence, type Family, type Schemas } from "../api/client";
  import type { Unwritten } from "../lib/envelope";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { LAYOUTS, USES } from "../lib/words";
  import { writeOnce } from "../lib/writes";
  import { navigate } from "../routes";
  import FamilySheet from "../stores/FamilySheet.svelte";

  let families = $state.raw<Family[]>([]);
  let wrong = $state<string | null>(null);
  let busy = $state(false);
  let vehicles = $state.raw<Schemas["VehicleRowOut"][]>([]);
  const unanswered = new UnansweredIds();
  type Given = Omit<Unwritten<Schemas["JobIn"]>, "id">;
  let given = $state<Given>({
    vehicle_id: null,
    kind: "ring_and_pinion",
    customer: "",
    vehicle: "",
    layout: "rear_drive",
    axle: "rear",
    family: "",
    complaint: "",
    use: "road",
    use_note: "",
  });
  const family = $derived(families.find((one) => one.code === given.family));

  async function load() {
    const answer = await ask(client.GET("/api/v1/families"));
    if (answer.kind === "done") families = answer.value;
    else wrong = sentence(answer);
    const known = new URLSearchParams(location.search).get("vehicle");
    if (known === null) return;
    const found = await ask(
      client.GET("/api/v1/vehicles/{vehicle_id}", { params: { path: { vehicle_id: known } } }),
    );
    if (found.kind === "done") take(found.value);
  }
  void load();

  /** Vehicles that were here before, while the name is typed; a known one brings its owner and layout. */
  async function look() {
    given.vehicle_id = null;
    const search = given.vehicle?.trim() ?? "";
    if (search.length < 3) {
      vehicles = [];
      return;
    }
    const answer = await ask(client.GET("/api/v1/vehicles", { params: { query: { search } } }));
    if (answer.kind === "done") vehicles = answer.value.vehicles.slice(0, 5);
  }
  function take(one: Pick<Schemas["VehicleRowOut"], "id" | "name" | "owner" | "layout">) {
    given.vehicle_id = one.id;
    given.vehicle = one.name;
    given.layout = one.layout;
    if (given.customer === "") given.customer = one.owner;
    if (one.layout === "rear_drive") given.axle = "rear";
    vehicles = [];
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const card = $state.snapshot(given) as Given;
    // the job has its write's id, so that a retry after a lost answer makes no second one
    const answer = await writeOnce(unanswered, "job", card, (body) =>
      client.POST("/api/v1/jobs", { body: { ...body, id: body.client_id } }),
    );
    busy = false;
    if (answer.kind === "done") await navigate("/jobs/:id", { params: { id: answer.value.id } });
    else wrong = sentence(answer);
  }
</script>

<svelte:head><title>New job · Amber Pinion</title></svelte:head>
<h1 class="mb-4">New job</h1>
<form class="grid gap-x-10 gap-y-5 lg:grid-cols-2" onsubmit={make}>
  <div class="grid content-start gap-4">
    <Field label="Customer"
      ><input class="input w-full" maxlength="200" required bind:value={given.customer} /></Field
    >
    <Field label="Vehicle"
      ><input
        class="input w-full"
        maxlength="200"
        required
        autocomplete="off"
        bind:value={given.vehicle}
        oninput={() => void look()}
      /></Field
    >
    {#if vehicles.length > 0}
      <div>
        <p class="quiet">Here before:</p>
        <ul class="grid">
          {#each vehicles as one (one.id)}
            <li>
              <button
                type="button"
                class="btn btn-plain min-h-touch w-full justify-start"
                onclick={() => take(one)}>{one.name}, {one.owner}</button
              >
            </li>
          {/each}
        </ul>
      </div>
    {:else if given.vehicle_id}
      <p class="quiet">Known vehicle: the job is added to its record.</p>
    {/if}
    <Field label="Complaint" hint="In the customer's words: when, where, at which speed.">
      <textarea class="textarea w-full" maxlength="2000" required bind:value={given.complaint}></textarea>
    </Field>
    <div class="grid gap-4 sm:grid-cols-2">
      <Field label="Use">
        <select class="select w-full" bind:value={given.use}>
          {#each USES as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
        </select>
      </Field>
      <Field label="Details of use (tow mass, grades, tyres planned)">
        <input class="input w-full" maxlength="2000" bind:value={given.use_note} />
      </Field>
      <Field label="Layout">
        <select
          class="select w-full"
          disabled={given.vehicle_id !== null}
          bind:value={given.layout}
          onchange={() => {
            if (given.layout === "rear_drive") given.axle = "rear";
            if (given.layout === "front_drive") given.axle = "front";
          }}
        >
          {#each LAYOUTS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
        </select>
      </Field>
      <Field label="Axle to work on">
        <select
          class="select w-full"
          bind:value={given.axle}
          disabled={given.layout === "rear_drive" || given.layout === "front_drive"}
        >
          <option value="rear">Rear axle</option>
          <option value="front">Front axle</option>
        </select>
      </Field>
    </div>
    <Field label="Axle family (from the Stores)">
      <select class="select w-full" required bind:value={given.family}>
        <option value="" disabled>Choose the axle family</option>
        {#each families as one (one.code)}<option value={one.code}
            >{one.name}: {one.build.split(";")[0]}</option
          >{/each}
      </select>
    </Field>
    <Notice text={wrong} />
    <button class="btn btn-primary justify-self-start" disabled={busy}>Save job</button>
  </div>
  <div>
    {#if family}
      <FamilySheet {family} />
    {:else}
      <p class="quiet border-line border-l-4 pl-4">
        The axle family gives the build of the axle: where the shims go, how the carrier is held, and the
        limits. Its spec sheet shows here when you choose one.
      </p>
    {/if}
  </div>
</form>
