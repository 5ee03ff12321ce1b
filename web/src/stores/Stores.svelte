<script lang="ts">
  import { ask, client, sentence, type Family, type Schemas } from "../api/client";
  import WhichShop from "../account/WhichShop.svelte";
  import { getSession } from "../lib/context";
  import type { Unwritten } from "../lib/envelope";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { writeOnce } from "../lib/writes";
  import Catalogue from "./Catalogue.svelte";
  import Drawer from "./Drawer.svelte";
  import FamilyEdit from "./FamilyEdit.svelte";
  import FamilySheet from "./FamilySheet.svelte";

  const session = getSession();
  let families = $state.raw<Family[]>([]);
  let code = $state("");
  const unanswered = new UnansweredIds();
  let wrong = $state<string | null>(null);
  const family = $derived(families.find((one) => one.code === code) ?? families[0]);

  async function load() {
    const answer = await ask(client.GET("/api/v1/families"));
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") families = answer.value;
  }
  void load();

  /** The sheet that is being changed, or copied into a new one. */
  let editing = $state<"edit" | "copy" | "new" | null>(null);
  let refused = $state({ text: null as string | null, field: "" });
  async function save(as: string, given: Unwritten<Schemas["FamilyIn"]>) {
    const answer = await writeOnce(unanswered, `sheet ${as}`, given, (body) =>
      client.PUT("/api/v1/families/{code}", { params: { path: { code: as } }, body }),
    );
    refused = {
      text: answer.kind === "done" ? null : sentence(answer),
      field: answer.kind === "refused" ? (answer.refused.field ?? "") : "",
    };
    if (answer.kind !== "done") return;
    await load();
    code = answer.value.code;
    editing = null;
  }

  async function share(of: Family, shared: boolean) {
    const answer = await writeOnce(unanswered, `share ${of.code}`, { shared }, (body) =>
      client.PUT("/api/v1/families/{code}/sharing", { params: { path: { code: of.code } }, body }),
    );
    wrong = answer.kind === "done" ? null : sentence(answer);
    await load();
  }

  async function setCount(of: Family, body: Unwritten<Schemas["ShimCountIn"]>) {
    const answer = await writeOnce(unanswered, of.code, body, (written) =>
      client.PUT("/api/v1/families/{code}/shims", { params: { path: { code: of.code } }, body: written }),
    );
    if (answer.kind === "refused" && answer.status === 409) await load();
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind !== "done") return;
    const fresh = answer.value;
    families = families.map((one) => (one.code === fresh.code ? fresh : one));
  }
</script>

<svelte:head><title>Stores · Amber Pinion</title></svelte:head>
<div class="mb-3 flex flex-wrap items-baseline justify-between gap-3">
  <h1>Stores</h1>
  <a href="/kinds">Kinds of work and their steps</a>
</div>
<WhichShop />
<Notice text={wrong} />
{#if family}
  <fieldset class="mb-5 flex flex-wrap items-center gap-1">
    <legend class="sr-only">Family</legend>
    {#each families as one, index (one.code)}
      {#if one.part !== families[index - 1]?.part}<span class="quiet mr-1 ml-3 text-sm first-of-type:ml-0"
          >{one.part_label}</span
        >{/if}
      <label
        class="figure min-h-touch has-checked:border-base-content flex cursor-pointer items-center border-b-4 border-transparent px-2.5 text-lg has-focus-visible:outline-3"
      >
        <input
          class="sr-only"
          type="radio"
          name="family"
          checked={one.code === family.code}
          onchange={() => (code = one.code)}
        />
        {one.name}
      </label>
    {/each}
  </fieldset>
{/if}
{#if session.me?.may.edit_stores && editing === null}
  <p class="mb-3 flex flex-wrap gap-2">
    {#if family}
      {#if family.lent_by === ""}
        <button class="btn btn-plain" onclick={() => (editing = "edit")}>Edit this sheet</button>
      {/if}
      <button class="btn btn-plain" onclick={() => (editing = "copy")}>Copy it to a new family</button>
    {/if}
    <button class="btn btn-plain" onclick={() => (editing = "new")}>New family</button>
  </p>
{/if}
{#if family && editing === null && session.me?.shop.others}
  {#if family.lent_by !== ""}
    <p class="quiet mb-3">Shared by {family.lent_by}. Copy it to change it.</p>
  {:else if session.me.may.edit_stores}
    <label class="min-h-touch mb-2 flex items-center gap-3">
      <input
        type="checkbox"
        class="checkbox checkbox-neutral"
        checked={family.shared}
        onchange={(event) => void share(family, event.currentTarget.checked)}
      />
      <span>Share this sheet with the other workshops</span>
    </label>
  {/if}
{/if}
{#if editing !== null}
  {#key editing === "new" ? "new" : `${family?.code} ${editing}`}
    <FamilyEdit
      family={editing === "new" ? null : (family ?? null)}
      copy={editing === "copy"}
      wrong={refused.text}
      field={refused.field}
      onsave={(as, given) => void save(as, given)}
      onclose={() => {
        editing = null;
        refused = { text: null, field: "" };
      }}
    />
  {/key}
{:else if family}
  <div class="rule-top grid gap-x-12 gap-y-6 pt-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
    <FamilySheet {family} />
    {#if family.part === "axle"}
      {#key family.code}<Drawer
          {family}
          mayEdit={session.me?.may.edit_stores ?? false}
          oncount={(body) => void setCount(family, body)}
        />{/key}
    {/if}
  </div>
{/if}
<Catalogue mayEdit={session.me?.may.edit_stores ?? false} onimported={() => void load()} />
