<script lang="ts">
  import { ask, client, sentence, type Family, type Schemas } from "../api/client";
  import type { Unwritten } from "../lib/envelope";
  import Field from "../lib/Field.svelte";
  import { newId, UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { LAYOUTS, USES } from "../lib/words";
  import { writeOnce } from "../lib/writes";
  import { navigate } from "../routes";
  import FamilySheet from "../stores/FamilySheet.svelte";
  import { kindsFor, type Kinds, type Place } from "./kinds";
  import WorkPick from "./WorkPick.svelte";

  let families = $state.raw<Family[]>([]);
  let kinds = $state.raw<Kinds | null>(null);
  let wrong = $state<string | null>(null);
  let backwards = $state(false);
  let busy = $state(false);
  let vehicles = $state.raw<Schemas["VehicleRowOut"][]>([]);
  const unanswered = new UnansweredIds();
  const MOST_WORKS = 6;
  type Given = Omit<Unwritten<Schemas["JobIn"]>, "id" | "kind" | "place" | "axle" | "family" | "more">;
  interface Booked {
    /** of this entry, so that a retry books the same piece of work */
    id: string;
    kind: string;
    place: Place | "";
    family: string;
  }
  const another = (kind: string): Booked => ({ id: newId(), kind, place: "", family: "" });
  let given = $state<Given>({
    vehicle_id: null,
    customer: "",
    vehicle: "",
    layout: "rear_drive",
    complaint: "",
    use: "road",
    use_note: "",
    promised_on: null,
    odometer: "",
    sure: false,
  });
  let works = $state<Booked[]>([another("ring_and_pinion")]);
  const family = $derived(families.find((one) => works.some((work) => work.family === one.code)));

  const pointed = $derived(
    (kinds?.pointed_at ?? [])
      .map((code) => kinds?.kinds.find((one) => one.code === code))
      .filter((one) => one !== undefined),
  );
  /** A kind that the complaint points at is the work, or one more where something was chosen already. */
  function takeUp(kind: string) {
    if (works.some((one) => one.kind === kind)) return;
    const only = works.length === 1 ? works[0] : undefined;
    if (only && only.kind === "ring_and_pinion" && only.family === "") only.kind = kind;
    else if (works.length < MOST_WORKS) works.push(another(kind));
  }

  /** What the complaint points at stands first in the lists. */
  async function point() {
    kinds = (await kindsFor(given.complaint)) ?? kinds;
  }
  async function load() {
    void point();
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
    vehicles = [];
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    const [first, ...more] = $state.snapshot(works).filter((one) => one.place !== "") as (Booked & {
      place: Place;
    })[];
    if (first === undefined) return;
    busy = true;
    const { kind, place, family: of } = first;
    const card = { ...($state.snapshot(given) as Given), kind, place, family: of, more };
    // the job has its write's id, so that a retry after a lost answer makes no second one
    const answer = await writeOnce(unanswered, "job", card, (body) =>
      client.POST("/api/v1/jobs", { body: { ...body, id: body.client_id } }),
    );
    busy = false;
    backwards = answer.kind === "refused" && answer.refused.code === "odometer_backwards";
    if (answer.kind === "done") await navigate("/jobs/:id", { params: { id: answer.value.id } });
    else wrong = sentence(answer);
  }
</script>

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
      <textarea
        class="textarea w-full"
        maxlength="2000"
        required
        bind:value={given.complaint}
        onchange={() => void point()}></textarea>
    </Field>
    {#if pointed.length > 0}
      <div class="flex flex-wrap items-center gap-2">
        <span class="quiet">The complaint points at:</span>
        {#each pointed as one (one.code)}
          <button
            type="button"
            class="btn btn-plain btn-sm min-h-touch"
            aria-pressed={works.some((work) => work.kind === one.code)}
            onclick={() => takeUp(one.code)}>{one.title}</button
          >
        {/each}
      </div>
    {/if}
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
        <select class="select w-full" disabled={given.vehicle_id !== null} bind:value={given.layout}>
          {#each LAYOUTS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
        </select>
      </Field>
      <Field label="Odometer (km)">
        <input
          class="input w-full"
          inputmode="decimal"
          autocomplete="off"
          maxlength="40"
          bind:value={given.odometer}
          oninput={() => ((given.sure = false), (backwards = false))}
        />
      </Field>
      <Field label="Promised for">
        <input
          class="input w-full"
          type="date"
          value={given.promised_on ?? ""}
          onchange={(event) => (given.promised_on = event.currentTarget.value || null)}
        />
      </Field>
    </div>
  </div>
  <div class="grid content-start gap-4">
    {#if kinds}
      {#each works as work, index (work.id)}
        <fieldset class="rule-top grid gap-3 pt-3">
          <legend class="sr-only">Work {index + 1}</legend>
          <div class="flex items-baseline justify-between">
            <h2>{works.length > 1 ? `Work ${index + 1}` : "Work"}</h2>
            {#if works.length > 1}
              <button
                type="button"
                class="btn btn-plain btn-sm min-h-touch"
                onclick={() => (works = works.filter((one) => one.id !== work.id))}
                >Remove<span class="sr-only"> work {index + 1}</span></button
              >
            {/if}
          </div>
          <WorkPick
            {kinds}
            {families}
            layout={given.layout ?? "rear_drive"}
            bind:kind={work.kind}
            bind:place={work.place}
            bind:family={work.family}
          />
        </fieldset>
      {/each}
      {#if works.length < MOST_WORKS}
        <button
          type="button"
          class="btn btn-plain justify-self-start"
          onclick={() => works.push(another(kinds?.pointed_at[0] ?? "ring_and_pinion"))}
          >Add another piece of work</button
        >
      {/if}
    {/if}
    <Notice text={wrong} />
    <div class="flex flex-wrap gap-2">
      <button class="btn btn-primary" disabled={busy || kinds === null}>Save job</button>
      {#if backwards}
        <button class="btn btn-neutral" disabled={busy} onclick={() => (given.sure = true)}
          >Save it with this odometer</button
        >
      {/if}
    </div>
    {#if family}
      <FamilySheet {family} />
    {/if}
  </div>
</form>
