<script lang="ts">
  import { dndzone, TRIGGERS, type DndEvent } from "svelte-dnd-action";

  import type { DiffBench } from "./bench.svelte";
  import { eachOnce } from "./each-once";
  import { plates, type Field, type Row } from "./values";

  interface Props {
    on: DiffBench;
    field: Field;
    /** plates that stand wrongly, from 0 */
    bad: number[];
  }
  let { on, field, bad }: Props = $props();
  interface Item extends Row {
    id: string;
  }
  const rows = $derived((on.values[field.name] as Row[] | undefined) ?? []);
  let dragged = $state<Item[] | null>(null);
  const items = $derived<Item[]>(
    dragged ?? rows.map((row, index) => ({ ...row, id: `${field.name}-${index}` })),
  );
  let typed = $state("");
  let wrong = $state("");
  const [kind, keyed] = $derived(field.columns);
  const word = (column: Field["columns"][number] | undefined, code: string | undefined) =>
    column?.options.find((one) => one.code === code)?.label ?? "";
  const BUTTONS = [
    { kind: "friction", keyed: "gear" },
    { kind: "friction", keyed: "case" },
    { kind: "steel", keyed: "case" },
    { kind: "steel", keyed: "gear" },
    { kind: "wave", keyed: "case" },
    { kind: "shim", keyed: "none" },
  ];

  const plain = (all: Item[]): Row[] =>
    all.map(({ kind, keyed }) => ({ kind: kind ?? "", keyed: keyed ?? "" }));
  function moved(event: CustomEvent<DndEvent<Item>>, done: boolean) {
    const { items: shown, info } = event.detail;
    // what comes after the finger is up says nothing any more
    if (dragged === null && info.trigger !== TRIGGERS.DRAG_STARTED) return;
    const items = eachOnce(shown);
    dragged = done ? null : items;
    if (done) on.set(field.name, plain(items));
  }
  function move(index: number, by: number) {
    const to = index + by;
    if (to < 0 || to >= rows.length) return;
    const next = [...rows];
    const [one] = next.splice(index, 1);
    if (one) next.splice(to, 0, one);
    on.set(field.name, next);
  }
  function type(event: SubmitEvent) {
    event.preventDefault();
    const found = plates(typed);
    wrong = found === null ? "Type f, s, w or h for each plate." : "";
    if (found === null) return;
    on.set(field.name, [...rows, ...found]);
    typed = "";
  }
</script>

<fieldset class="col-span-full min-w-0">
  <legend class="label-text">{field.label}</legend>
  {#if field.hint}<p class="quiet text-sm">{field.hint}</p>{/if}
  <form class="flex flex-wrap items-end gap-2" onsubmit={type}>
    <label class="grid grow gap-1">
      <span class="quiet text-sm"
        >Typed: f friction on the gear, s steel on the case, w wave, h shim. Such as s f s f s</span
      >
      <input class="input figure w-full text-lg" autocomplete="off" maxlength="200" bind:value={typed} />
    </label>
    <button class="btn btn-neutral">Add</button>
  </form>
  {#if wrong}<p class="text-out text-sm font-semibold" role="alert">{wrong}</p>{/if}
  <div class="mt-1 flex flex-wrap gap-1">
    {#each BUTTONS as one (`${one.kind}-${one.keyed}`)}
      <button type="button" class="btn btn-plain btn-sm" onclick={() => on.set(field.name, [...rows, one])}
        >+ {word(kind, one.kind)}{one.keyed === "none" ? "" : `, ${word(keyed, one.keyed)}`}</button
      >
    {/each}
  </div>
  {#if items.length > 0}
    <ol
      class="mt-2 grid"
      aria-label={field.label}
      use:dndzone={{
        items,
        flipDurationMs: 0,
        dropTargetStyle: {},
        type: field.name,
        zoneTabIndex: -1,
        zoneItemTabIndex: -1,
      }}
      onconsider={(event) => moved(event, false)}
      onfinalize={(event) => moved(event, true)}
    >
      {#each items as item, index (item.id)}
        {@const out = bad.includes(index)}
        <li
          class={[
            "bg-base-100 border-line flex items-center gap-2 border-b border-l-4 pl-2",
            out ? "border-l-out" : "border-l-transparent",
          ]}
        >
          <span class="figure w-7 text-lg">{index + 1}</span>
          <span class="grow"
            >{word(kind, item.kind)}{item.keyed === "none"
              ? ""
              : `, on the ${word(keyed, item.keyed)}`}{#if out}<strong class="text-out">
                wrong here</strong
              >{/if}</span
          >
          <button
            type="button"
            class="btn btn-plain min-w-touch px-3"
            disabled={index === 0}
            onclick={() => move(index, -1)}
            ><span aria-hidden="true">↑</span><span class="sr-only">Plate {index + 1} inwards</span></button
          >
          <button
            type="button"
            class="btn btn-plain min-w-touch px-3"
            disabled={index === items.length - 1}
            onclick={() => move(index, 1)}
            ><span aria-hidden="true">↓</span><span class="sr-only">Plate {index + 1} outwards</span></button
          >
          <button
            type="button"
            class="btn btn-plain min-w-touch px-3"
            onclick={() =>
              on.set(
                field.name,
                rows.filter((_, at) => at !== index),
              )}
            ><span aria-hidden="true">×</span><span class="sr-only">Remove plate {index + 1}</span></button
          >
        </li>
      {/each}
    </ol>
  {/if}
</fieldset>
