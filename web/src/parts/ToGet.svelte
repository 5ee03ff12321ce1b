<script lang="ts">
  import FileLink from "../lib/FileLink.svelte";
  import Dialog from "../lib/Dialog.svelte";
  import Field from "../lib/Field.svelte";
  import { newId } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { money, day } from "../lib/quantity";
  import { titled, type Need, type WallOnScreen } from "./wall.svelte";

  interface Props {
    on: WallOnScreen;
  }
  let { on }: Props = $props();
  const wall = $derived(on.wall);
  const STATES: { code: Need["state"]; word: string }[] = [
    { code: "wanted", word: "To get" },
    { code: "asked", word: "Asked for" },
    { code: "ordered", word: "Ordered" },
    { code: "arrived", word: "Arrived" },
    { code: "fitted", word: "Fitted" },
    { code: "returned", word: "Returned for credit" },
    { code: "dropped", word: "Not needed" },
  ];
  interface Line {
    line: string;
    version: string | null;
    key: string;
    name: string;
    count: number | null;
    price: string;
    supplier: string;
    state: Need["state"];
    due_on: string;
    note: string;
  }
  let line = $state<Line | null>(null);
  const blank = (): Line => ({
    line: newId(),
    version: null,
    key: "",
    name: "",
    count: 1,
    price: "",
    supplier: wall?.needs.at(-1)?.supplier ?? "",
    state: "wanted",
    due_on: "",
    note: "",
  });
  const edit = (need: Need): Line => ({
    ...need,
    price: money(need.price),
    due_on: need.due_on ?? "",
    count: need.count,
  });
  const total = $derived((wall?.needs ?? []).reduce((sum, need) => sum + (need.price ?? 0) * need.count, 0));

  async function send(given: Line): Promise<boolean> {
    return on.need({
      line: given.line,
      version: given.version,
      key: given.key,
      name: given.name,
      count: given.count ?? 1,
      price: given.price,
      supplier: given.supplier,
      state: given.state,
      due_on: given.due_on || null,
      note: given.note,
    });
  }
  const suppliers = $derived([...new Set((wall?.needs ?? []).map((need) => need.supplier).filter(Boolean))]);
</script>

{#if wall}
  {#if wall.proposals.length > 0 && !wall.signed}
    <section aria-labelledby="proposed" class="border-line mb-5 border-2 p-3">
      <h2 id="proposed" class="mb-1">Not on the list yet: {wall.proposals.length}</h2>
      <ul class="mb-3 grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
        {#each wall.proposals as one (one.key)}
          <li class="flex items-center gap-2 py-0.5">
            <span class="grow">{one.count} × {one.name} <span class="quiet text-sm">{one.why}</span></span>
            <button
              type="button"
              class="btn btn-plain btn-sm"
              disabled={on.busy}
              onclick={() => void on.needAll([one.key])}>Add<span class="sr-only">: {one.name}</span></button
            >
          </li>
        {/each}
      </ul>
      <button
        type="button"
        class="btn btn-neutral"
        disabled={on.busy}
        onclick={() => void on.needAll(wall.proposals.map((one) => one.key))}>Add all</button
      >
    </section>
  {/if}
  <div class="mb-2 flex flex-wrap items-center gap-2">
    <h2 class="grow">Parts to get</h2>
    {#if !wall.signed}<button type="button" class="btn btn-plain" onclick={() => (line = blank())}
        >Add a part</button
      >{/if}
    {#if wall.needs.length > 0}
      <a class="btn btn-plain" href={`/api/v1/work/${wall.work_id}/parts/order.pdf`} download
        >Order list, PDF</a
      >
      <FileLink class="btn btn-plain" href={`/api/v1/work/${wall.work_id}/parts/order.csv`}>CSV</FileLink>
    {/if}
  </div>
  {#if wall.needs.length > 0}
    <ul>
      {#each wall.needs as need (need.line)}
        <li
          class="border-line grid grid-cols-2 items-center gap-x-4 gap-y-1 border-t py-2 sm:grid-cols-[minmax(0,1fr)_9rem_11rem_auto]"
        >
          <span class="max-sm:col-span-2"
            ><span class="figure text-lg">{need.count} × {titled(need.name)}</span>
            <span class="quiet block text-sm">{[need.supplier, need.note].filter(Boolean).join(", ")}</span
            ></span
          >
          <span class="figure text-lg sm:text-right"
            >{need.price === null ? "" : money(need.price * need.count)}</span
          >
          <span
            >{titled(
              need.state_word,
            )}{#if need.due_on && (need.state === "asked" || need.state === "ordered")}<span
                class="block text-sm">{need.late ? "late: was due " : "due "}{day(need.due_on)}</span
              >{/if}</span
          >
          {#if !wall.signed}
            <span class="flex flex-wrap gap-2 max-sm:col-span-2">
              {#if need.state === "ordered"}<button
                  type="button"
                  class="btn btn-plain btn-sm"
                  disabled={on.busy}
                  onclick={() => void send({ ...edit(need), state: "arrived" })}
                  >Arrived<span class="sr-only">: {need.name}</span></button
                >{/if}
              <button type="button" class="btn btn-plain btn-sm" onclick={() => (line = edit(need))}
                >Edit<span class="sr-only">: {need.name}</span></button
              >
            </span>
          {/if}
        </li>
      {/each}
    </ul>
    {#if total > 0}<p class="rule-top figure pt-1 text-xl">Together {money(total)}</p>{/if}
  {:else}
    <p class="quiet max-w-prose">
      Parts that are used once and those that are to be replaced are proposed by themselves. While something
      is asked for or ordered, the job waits for parts, and comes back when all have arrived.
    </p>
  {/if}
{/if}
{#if line}
  {@const given = line}
  <Dialog title={given.version === null ? "A part to get" : titled(given.name)} onclose={() => (line = null)}>
    <form
      class="grid gap-3"
      onsubmit={async (event) => {
        event.preventDefault();
        if (await send(given)) line = null;
      }}
    >
      <Field label="Part"
        ><input class="input w-full" maxlength="120" required bind:value={given.name} /></Field
      >
      <div class="grid grid-cols-2 gap-3">
        <Field label="Count"
          ><input
            class="input figure w-full"
            type="number"
            min="1"
            max="10000"
            required
            bind:value={given.count}
          /></Field
        >
        <Field label="Price each (optional)"
          ><input
            class="input figure w-full"
            inputmode="decimal"
            maxlength="20"
            bind:value={given.price}
          /></Field
        >
        <Field label="From whom (optional)">
          <input class="input w-full" maxlength="80" list="suppliers" bind:value={given.supplier} />
        </Field>
        <Field label="State">
          <select class="select w-full" bind:value={given.state}>
            {#each STATES as one (one.code)}<option value={one.code}>{one.word}</option>{/each}
          </select>
        </Field>
        <Field label="Due (optional)"
          ><input class="input w-full" type="date" bind:value={given.due_on} /></Field
        >
        <Field label="Note (optional)"
          ><input class="input w-full" maxlength="200" bind:value={given.note} /></Field
        >
      </div>
      <datalist id="suppliers"
        >{#each suppliers as one (one)}<option value={one}></option>{/each}</datalist
      >
      <Notice text={on.wrong} />
      <div class="flex gap-2">
        <button class="btn btn-neutral" disabled={on.busy}>Save</button>
        <button type="button" class="btn btn-plain" onclick={() => (line = null)}>Cancel</button>
      </div>
    </form>
  </Dialog>
{/if}
