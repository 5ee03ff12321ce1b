<script lang="ts">
  import { ask, client, sentence, type Family, type Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { newId } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { USES } from "../lib/words";
  import { navigate } from "../routes";
  import FamilySheet from "../stores/FamilySheet.svelte";

  let families = $state.raw<Family[]>([]);
  let wrong = $state<string | null>(null);
  let busy = $state(false);
  let given = $state<Schemas["JobIn"]>({
    id: newId(),
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
  }
  void load();

  async function make(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const answer = await ask(client.POST("/api/v1/jobs", { body: $state.snapshot(given) }));
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
      ><input class="input w-full" maxlength="200" required bind:value={given.vehicle} /></Field
    >
    <Field label="Complaint" hint="In the customer's words: when, where, at which speed.">
      <textarea class="textarea w-full" maxlength="2000" required bind:value={given.complaint}></textarea>
    </Field>
    <div class="grid gap-4 sm:grid-cols-2">
      <Field label="Use">
        <select class="select w-full" bind:value={given.use}>
          {#each USES as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
        </select>
      </Field>
      <Field label="Tow mass, grades, tyres planned">
        <input class="input w-full" maxlength="2000" bind:value={given.use_note} />
      </Field>
      <Field label="Drive">
        <select
          class="select w-full"
          bind:value={given.layout}
          onchange={() => {
            if (given.layout === "rear_drive") given.axle = "rear";
          }}
        >
          <option value="rear_drive">Rear-wheel drive</option>
          <option value="four_wheel_drive">Four-wheel drive with a transfer case</option>
        </select>
      </Field>
      <Field label="Axle to work on">
        <select class="select w-full" bind:value={given.axle} disabled={given.layout === "rear_drive"}>
          <option value="rear">Rear axle</option>
          <option value="front">Front axle</option>
        </select>
      </Field>
    </div>
    <Field label="Axle family, from Stores">
      <select class="select w-full" required bind:value={given.family}>
        <option value="" disabled>Choose how the axle is built</option>
        {#each families as one (one.code)}<option value={one.code}>{one.name}: {one.build}</option>{/each}
      </select>
    </Field>
    <Notice text={wrong} />
    <button class="btn btn-primary justify-self-start" disabled={busy}>Make the job</button>
  </div>
  <div>
    {#if family}
      <FamilySheet {family} />
    {:else}
      <p class="quiet border-line border-l-4 pl-4">
        The family says how the axle is built: where the shims go, what holds the carrier, and which limits
        its spec sheet gives. Its sheet shows here when you choose one.
      </p>
    {/if}
  </div>
</form>
