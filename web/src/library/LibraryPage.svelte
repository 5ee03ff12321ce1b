<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import { newId, UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { writeOnce } from "../lib/writes";
  import { kindsFor, type Kinds } from "../job/kinds";
  import OwnKind from "./OwnKind.svelte";

  type Shape = Required<Schemas["ShapePart"]>;
  const session = getSession();
  const mayShape = $derived(session.me?.may.shop_settings ?? false);
  const unanswered = new UnansweredIds();
  const whole = (of: Schemas["ShapePart"]): Shape => ({
    steps: of.steps ?? [],
    cautions: of.cautions ?? {},
    minutes: of.minutes ?? {},
    ways: of.ways ?? [],
  });
  let kinds = $state.raw<Kinds | null>(null);
  let kind = $state("ring_and_pinion");
  let shown = $state.raw<Schemas["LibraryOut"] | null>(null);
  let shape = $state<Shape>({ steps: [], cautions: {}, minutes: {}, ways: [] });
  let opened = $state<string | null>(null);
  let reason = $state("");
  let wrong = $state<string | null>(null);
  let told = $state("");
  /** A kind of the shop's own that is being put together or changed. */
  let making = $state<"new" | "change" | null>(null);
  const changed = $derived(shown !== null && JSON.stringify(shape) !== JSON.stringify(whole(shown.shape)));

  function take(library: Schemas["LibraryOut"]) {
    shown = library;
    shape = whole(library.shape);
    reason = "";
  }
  async function load() {
    const chosen = kind;
    kinds ??= await kindsFor("");
    const answer = await ask(
      client.GET("/api/v1/kinds/{kind}/library", { params: { path: { kind: chosen } } }),
    );
    if (chosen !== kind) return; // another one was chosen meanwhile
    wrong = answer.kind === "done" ? null : sentence(answer);
    told = "";
    if (answer.kind === "done") take(answer.value);
  }
  void load();

  async function made(library: Schemas["LibraryOut"]) {
    kinds = await kindsFor("");
    kind = library.kind;
    take(library);
    making = null;
    told = "Saved. Work that is booked from now on has it.";
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    const given = { number: shown?.number ?? 0, reason, shape: $state.snapshot(shape) as Shape };
    const answer = await writeOnce(unanswered, `kind ${kind}`, given, (body) =>
      client.PUT("/api/v1/kinds/{kind}/library", { params: { path: { kind } }, body }),
    );
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind !== "done") return;
    take(answer.value);
    told = "Saved. Work that is booked from now on has it.";
  }
  function addAfter(code: string) {
    const own = `own_${newId().slice(0, 8)}`;
    shape.steps.push({
      code: own,
      after: code,
      title: "",
      why: "",
      caution: "",
      hold: false,
      note: "",
      minutes: 5,
    });
  }
  function addWay(question: string) {
    shape.ways.push({ question, code: `own_${newId().slice(0, 8)}`, title: "", fits: "", risk: "" });
  }
  function setMinutes(step: Schemas["LibraryStepOut"], minutes: number) {
    if (Number.isInteger(minutes) && minutes >= 0) shape.minutes = { ...shape.minutes, [step.code]: minutes };
  }
  function setCaution(code: string, text: string) {
    const rest = Object.fromEntries(Object.entries(shape.cautions).filter(([other]) => other !== code));
    shape.cautions = text.trim() === "" ? rest : { ...rest, [code]: text };
  }
  const base = $derived((shown?.steps ?? []).filter((step) => !step.own));
  const total = $derived(base.reduce((sum, step) => sum + (shape.minutes[step.code] ?? step.minutes), 0));
</script>

<svelte:head><title>Kinds of work · Amber Pinion</title></svelte:head>
<h1 class="mb-3">Kinds of work</h1>
<div class="mb-4 flex flex-wrap items-end gap-x-6 gap-y-2">
  <div class="w-full max-w-md">
    <Field label="Kind of work">
      <select class="select w-full" bind:value={kind} onchange={() => void load()}>
        {#each kinds?.kinds ?? [] as one (one.code)}<option value={one.code}>{one.title}</option>{/each}
      </select>
    </Field>
  </div>
  {#if shown}
    <p class="quiet">
      {base.length} steps, about {Math.round(total / 6) / 10} hours of work{shown.number > 0
        ? `; changed by ${shown.by_name}: ${shown.reason}`
        : ""}.
    </p>
  {/if}
</div>
{#if mayShape && making === null}
  <p class="mb-3 flex flex-wrap gap-2">
    <button class="btn btn-plain" onclick={() => (making = "new")}>New kind of work</button>
    {#if shown?.made}
      <button class="btn btn-plain" onclick={() => (making = "change")}>Change its blocks</button>
    {/if}
  </p>
{/if}
<Notice text={wrong} />
{#if told}<Notice kind="told" text={told} />{/if}
{#if making !== null && kinds}
  <OwnKind
    {kinds}
    library={making === "change" ? shown : null}
    onsaved={(library) => void made(library)}
    onclose={() => (making = null)}
  />
{:else if shown}
  <form onsubmit={save}>
    <p class="quiet mb-2">
      {mayShape
        ? "Add steps, cautions, minutes and ways of your own. Steps of the library stay, and a hold point cannot be taken out. Work that was begun keeps its steps. Once a step was done often enough, the plan counts what it takes here."
        : "A foreman can add steps, cautions, minutes and ways."}
    </p>
    <ol class="rule-top">
      {#each base as step, index (step.code)}
        {#if index === 0 || base[index - 1]?.group !== step.group}
          <li class="pt-3"><h2>{step.group}</h2></li>
        {/if}
        <li class={["border-line border-b border-l-4 py-1.5 pl-3", step.hold && "border-l-base-content"]}>
          <div class="flex flex-wrap items-center gap-x-3">
            <span class="min-w-0 grow">
              {step.title}
              {#if step.hold}<span class="figure ml-1 border border-current px-1 text-sm leading-none"
                  >Hold point</span
                >{/if}
              {#if step.needs.length > 0}<span class="quiet text-sm">only where it applies</span>{/if}
              {#if step.learnt !== null}<span class="quiet block text-sm"
                  >takes {step.learnt} min here lately</span
                >{/if}
            </span>
            {#if mayShape}
              <label class="flex items-center gap-1">
                <input
                  class="input w-20"
                  type="number"
                  min="0"
                  max="10000"
                  aria-label={`Minutes: ${step.title}`}
                  value={shape.minutes[step.code] ?? step.minutes}
                  onchange={(event) => setMinutes(step, event.currentTarget.valueAsNumber)}
                />
                <span class="quiet text-sm">min</span>
              </label>
              <button
                type="button"
                class="btn btn-plain btn-sm min-h-touch"
                aria-expanded={opened === step.code}
                onclick={() => (opened = opened === step.code ? null : step.code)}
                >{opened === step.code ? "Close" : "Add"}<span class="sr-only">: {step.title}</span></button
              >
            {:else}<span class="quiet text-sm">{step.minutes} min</span>{/if}
          </div>
          {#if shape.cautions[step.code]}<p class="border-out bg-base-200 border-l-4 px-3 py-1">
              <strong>Own caution:</strong>
              {shape.cautions[step.code]}
            </p>{/if}
          {#if opened === step.code}
            <div class="my-2 grid gap-2 pl-2">
              <Field label="Own caution at this step">
                <input
                  class="input w-full max-w-2xl"
                  maxlength="200"
                  value={shape.cautions[step.code] ?? ""}
                  onchange={(event) => setCaution(step.code, event.currentTarget.value)}
                />
              </Field>
              <div class="flex flex-wrap gap-2">
                <button type="button" class="btn btn-plain" onclick={() => addAfter(step.code)}
                  >Add a step after this one</button
                >
                {#if step.act === "choose"}
                  <button type="button" class="btn btn-plain" onclick={() => addWay(step.code)}
                    >Add a way</button
                  >
                {/if}
              </div>
            </div>
          {/if}
          {#each shape.ways.filter((one) => one.question === step.code) as way (way.code)}
            <div class="my-1 grid gap-2 pl-2 sm:grid-cols-3">
              <Field label="Own way"
                ><input class="input w-full" maxlength="200" required bind:value={way.title} /></Field
              >
              <Field label="When it fits"
                ><input class="input w-full" maxlength="200" bind:value={way.fits} /></Field
              >
              <Field label="Risk"><input class="input w-full" maxlength="200" bind:value={way.risk} /></Field>
            </div>
          {/each}
        </li>
        {#each shape.steps.filter((one) => one.after === step.code) as own (own.code)}
          <li class="border-base-content my-1 border-l-8 py-2 pl-3">
            <fieldset class="grid gap-2 sm:grid-cols-2">
              <legend class="figure">Own step</legend>
              <Field label="What is done"
                ><input class="input w-full" maxlength="200" required bind:value={own.title} /></Field
              >
              <Field label="Why"
                ><input class="input w-full" maxlength="300" required bind:value={own.why} /></Field
              >
              <Field label="Caution (optional)"
                ><input class="input w-full" maxlength="300" bind:value={own.caution} /></Field
              >
              <Field label="What to write beside it (optional)"
                ><input class="input w-full" maxlength="200" bind:value={own.note} /></Field
              >
              <label class="min-h-touch inline-flex items-center gap-2"
                ><input type="checkbox" class="checkbox" bind:checked={own.hold} /> Hold point</label
              >
              <button
                type="button"
                class="btn btn-plain btn-sm min-h-touch justify-self-start"
                onclick={() => (shape.steps = shape.steps.filter((one) => one.code !== own.code))}
                >Remove</button
              >
            </fieldset>
          </li>
        {/each}
      {/each}
    </ol>
    {#if mayShape}
      <div
        class="bg-base-100 border-base-content sticky bottom-0 flex flex-wrap items-end gap-3 border-t-2 py-2"
      >
        <div class="grow sm:max-w-md">
          <Field label="Reason for the change">
            <input class="input w-full" maxlength="200" required bind:value={reason} />
          </Field>
        </div>
        <button class="btn btn-primary" disabled={!changed}>Save</button>
      </div>
    {/if}
  </form>
{/if}
