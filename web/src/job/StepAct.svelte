<script lang="ts">
  import { untrack } from "svelte";

  import type { Step } from "../api/client";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import { when } from "../lib/quantity";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import HeatAid from "./aids/HeatAid.svelte";
  import QuoteAid from "./aids/QuoteAid.svelte";
  import SpeedAid from "./aids/SpeedAid.svelte";
  import Tightening from "./aids/Tightening.svelte";
  import BoltTicks from "./BoltTicks.svelte";
  import type { Tab } from "../parts/tabs";
  import type { JobOnScreen } from "./job.svelte";
  import { askLabel, bench, DESKS, left, toGo, window } from "./steps";

  interface Props {
    on: JobOnScreen;
    step: Step;
    below: string;
    now: number;
    /** after a write that was taken */
    onpassed: () => void;
  }
  let { on, step, below, now, onpassed }: Props = $props();
  const session = getSession();
  const units = $derived({
    length: session.me?.length_unit ?? "mm",
    torque: session.me?.torque_unit ?? "nm",
  });
  const main = $derived(["btn", step.is_next ? "btn-primary" : "btn-neutral"]);

  // what a bench tool found stands there already, and is recorded by Enter
  let values = $state<Record<string, string>>(untrack(() => ({ ...step.measured?.readings })));
  let note = $state("");
  // the way to begin with is marked already, so that Enter takes it
  let way = $state(
    untrack(() =>
      step.ways.some((one) => one.chosen) ? undefined : step.ways.find((one) => one.recommended),
    )?.code ?? "",
  );
  let reason = $state("");
  let minutes = $state<number | null>(null);
  let waitsFor = $state<"parts" | "customer">("parts");
  let skipping = $state(false);

  const chosen = $derived(step.ways.find((one) => one.code === way));
  const advised = $derived(step.ways.find((one) => one.recommended));
  const before = $derived(step.ways.find((one) => one.chosen));
  const wantsReason = $derived(
    chosen !== undefined && (before !== undefined || (advised !== undefined && !chosen.recommended)),
  );
  const refused = $derived(on.refused?.step === step.code ? on.refused.code : null);
  const over = $derived(step.clock !== null && (left(step.clock, now) ?? 0) <= 0);

  async function pass(more: { typed?: string; keep?: boolean; sure?: boolean } = {}) {
    if (await on.pass(step.code, { values: $state.snapshot(values), note, ...more })) onpassed();
  }
  async function choose() {
    if (await on.choose(step.code, way, reason)) onpassed();
  }
  async function begin() {
    const given =
      step.act === "wait"
        ? { minutes: null, waits_for: waitsFor, note }
        : { minutes, waits_for: "parts" as const, note: "" };
    if (await on.begin(step.code, given)) onpassed();
  }
  /** where on the Parts wall a step is worked, if it is */
  const WALL_OF: Record<string, Tab> = {
    inspected: "decide",
    pieces_laid_out: "decide",
    pieces_all: "decide",
    quote: "quote",
    customer_answers: "quote",
    cover: "back",
    oil: "back",
  };
  const wall = $derived(
    WALL_OF[step.code] ?? (step.act === "take_off" ? "off" : step.act === "put_back" ? "back" : null),
  );
  const joined = (before: string, more: string) =>
    [before.trim(), more].filter(Boolean).join(" ").slice(0, 400);
  const submit = (act: () => Promise<void>) => (event: SubmitEvent) => {
    event.preventDefault();
    void act();
  };
</script>

{#snippet noted()}
  {#if step.aid === "heat"}
    <HeatAid onsaid={(text) => (note = joined(note, text))} />
  {:else if step.aid === "quote"}
    <QuoteAid onsaid={(text) => (note = joined(note, text))} />
  {:else if step.aid === "speed"}
    <SpeedAid {values} />
  {/if}
  {#if step.note_asked}
    <Field label={step.note_asked}><input class="input w-full" maxlength="400" bind:value={note} /></Field>
  {/if}
{/snippet}
{#snippet skip()}
  {#if step.may_skip || (step.act === "clock" && step.clock && !over)}
    <button type="button" class="btn btn-plain" disabled={on.busy} onclick={() => (skipping = true)}
      >{step.act === "clock" && step.clock ? "Cut it short" : "Skip"}</button
    >
  {/if}
{/snippet}

{#if (step.fastener && step.act !== "bolts") || step.fluids.length > 0}
  <div class="mb-3 grid gap-3">
    {#if step.fastener && step.act !== "bolts"}<Tightening
        fastener={step.fastener}
        unit={units.torque}
      />{/if}
    {#each step.fluids as fluid (fluid.oil)}
      <p>
        <strong>{fluid.oil}.</strong>
        {fluid.text}
        {#if fluid.is_sample}<span class="sample ml-1">Sample</span>{/if}
        <span class="quiet block text-sm">{fluid.source_note}</span>
      </p>
    {/each}
  </div>
{/if}
{#if step.measured}
  <div class="border-base-content bg-base-200 mb-3 border-l-4 px-3 py-2">
    <p class="flex flex-wrap items-center gap-2">
      {#if step.measured.verdict}<VerdictMark verdict={step.measured.verdict} size={22} />{/if}
      <strong>{step.measured.title}</strong>
      <span class="quiet text-sm">{step.measured.by_name}, {when(step.measured.at)}</span>
    </p>
    <ul>
      {#each step.measured.lines as line (line.name)}<li>{line.what}: <strong>{line.said}</strong></li>{/each}
    </ul>
  </div>
{/if}
{#if step.act === "read" || step.act === "count"}
  <form class="grid gap-3" onsubmit={submit(pass)}>
    <div class="flex flex-wrap items-start gap-x-5 gap-y-3">
      {#each step.asks as ask (ask.name)}
        <label class="grid max-w-full gap-1">
          <span class="label-text">{askLabel(ask, units)}</span>
          <input
            class="input figure w-44 text-2xl"
            name={ask.name}
            inputmode={ask.dimension === "number" ? "numeric" : "decimal"}
            autocomplete="off"
            maxlength="40"
            bind:value={values[ask.name]}
          />
          {#if ask.beside}<strong class="text-sm">{ask.beside}</strong>{/if}
          {#if ask.limit}<span class="quiet max-w-64 text-sm">
              {window(ask.limit)}
              {#if ask.limit.is_sample}<span class="sample ml-1">Sample</span>{/if}
            </span>{/if}
          {#if ask.may_skip}<span class="quiet text-sm">if it can be read</span>{/if}
        </label>
      {/each}
    </div>
    {@render noted()}
    <div class="flex flex-wrap gap-2">
      <button class={main} disabled={on.busy}>Record</button>
      {#if refused === "out_of_window"}
        <button
          type="button"
          class="btn btn-neutral"
          disabled={on.busy}
          onclick={() => void pass({ keep: true })}
          >{step.hold ? "Record it, the hold point stays closed" : "Record it anyway"}</button
        >
      {:else if refused === "odometer_backwards"}
        <button
          type="button"
          class="btn btn-neutral"
          disabled={on.busy}
          onclick={() => void pass({ sure: true })}>Record it anyway</button
        >
      {/if}
      {@render skip()}
    </div>
    {#if step.outcome === "out"}
      <ul class="grid gap-1">
        {#each step.asks.filter((ask) => ask.entered) as ask (ask.name)}
          <li class="flex items-center gap-2">
            <VerdictMark verdict={ask.verdict} size={24} />
            <span>{ask.what}: {ask.entered}. {ask.text}</span>
          </li>
        {/each}
      </ul>
    {/if}
  </form>
{:else if step.act === "choose"}
  <form class="grid gap-3" onsubmit={submit(choose)}>
    <div class="grid gap-1" role="radiogroup" aria-label={step.title}>
      {#each step.ways as one (one.code)}
        <label
          class={[
            "border-line has-checked:border-base-content has-checked:bg-base-200 flex items-start gap-3 border-l-4 px-3 py-1.5",
            !one.shut && "cursor-pointer",
          ]}
        >
          <input
            type="radio"
            class="radio mt-1"
            name={`way-${step.code}`}
            value={one.code}
            disabled={one.shut !== ""}
            bind:group={way}
          />
          <span class="min-w-0">
            <span class="figure text-lg leading-tight">{one.title}</span>
            {#if one.recommended}<span class="figure ml-2 border border-current px-1.5 text-sm"
                >Recommended</span
              >{/if}
            {#if one.chosen}<span class="quiet ml-2 text-sm">chosen now</span>{/if}
            {#if one.fits}<span class="quiet block text-sm">{one.fits}</span>{/if}
            {#if one.shut}<strong class="block text-sm">Not open: {one.shut}</strong>
            {:else if one.risk}<span class="block text-sm">Risk: {one.risk}</span>{/if}
          </span>
        </label>
      {/each}
    </div>
    {#if wantsReason}
      <Field label="Reason">
        <input class="input w-full" maxlength="200" required bind:value={reason} />
      </Field>
    {/if}
    <div class="flex flex-wrap gap-2">
      <button class={main} disabled={on.busy || way === ""}>Choose</button>
      {@render skip()}
    </div>
  </form>
{:else if step.act === "bolts"}
  <div class="flex flex-col gap-x-10 gap-y-4 lg:flex-row-reverse lg:justify-end">
    {#if step.fastener}<Tightening fastener={step.fastener} unit={units.torque} />{/if}
    <BoltTicks
      fastener={step.fastener}
      next={step.is_next}
      busy={on.busy}
      onall={(ticked) => void pass({ typed: String(ticked) })}
    />
  </div>
{:else if step.act === "clock"}
  {#if step.clock === null}
    <form class="flex flex-wrap items-end gap-2" onsubmit={submit(begin)}>
      <label class="grid gap-1">
        <span class="label-text">Minutes</span>
        <input
          class="input figure w-32 text-2xl"
          type="number"
          min="1"
          max="86400"
          placeholder={String(step.wait_minutes)}
          bind:value={minutes}
        />
      </label>
      <button class={main} disabled={on.busy}>Start the clock</button>
      {@render skip()}
    </form>
  {:else}
    <p class="figure text-3xl" role="timer">
      {over
        ? "Over"
        : `Ready ${step.clock.until ? when(step.clock.until) : ""}: ${toGo(left(step.clock, now))}`}
    </p>
    <div class="mt-2 flex flex-wrap gap-2">
      <button class={over ? main : "btn btn-plain"} disabled={on.busy || !over} onclick={() => void pass()}
        >Confirm</button
      >
      {@render skip()}
    </div>
  {/if}
{:else if step.act === "wait"}
  {#if step.clock === null}
    <form class="grid gap-3" onsubmit={submit(begin)}>
      <Field label="Waits for">
        <select class="select w-full max-w-72" bind:value={waitsFor}>
          <option value="parts">Parts</option>
          <option value="customer">The customer</option>
        </select>
      </Field>
      <Field label="What lies where, and whether the vehicle may be rolled">
        <textarea class="textarea w-full" maxlength="400" required bind:value={note}></textarea>
      </Field>
      <button class={[main, "justify-self-start"]} disabled={on.busy}>Park the work</button>
    </form>
  {:else}
    <p class="border-base-content bg-base-200 border-l-4 px-3 py-2">
      <strong>Parked {when(step.clock.begun_at)}.</strong>
      {step.note}
    </p>
    <button class={[main, "mt-3"]} disabled={on.busy} onclick={() => void pass()}>It is here: go on</button>
  {/if}
{:else if step.measure === "gear_set"}
  <a class={main} href={`${below}/gear-set`}>Identify the gear set</a>
{:else if step.missing !== null}
  {@const done = step.missing === ""}
  {#if step.missing}<p class="mb-2">{step.missing}</p>{/if}
  <div class="flex flex-wrap gap-2">
    {#if done}
      <button class={main} disabled={on.busy} onclick={() => void pass()}
        >{bench(step.measure) ? "In at the bench: confirm" : "Confirm"}</button
      >
    {/if}
    <a class={done ? "btn btn-plain" : main} href={`${below}${DESKS[step.measure]?.path ?? "/bench"}`}
      >Go to the {DESKS[step.measure]?.name ?? "Set-up bench"}</a
    >
    {@render skip()}
  </div>
{:else}
  <form class="grid gap-3" onsubmit={submit(pass)}>
    {@render noted()}
    <div class="flex flex-wrap gap-2">
      <button class={main} disabled={on.busy}>Confirm<span class="sr-only">: {step.title}</span></button>
      {@render skip()}
    </div>
  </form>
{/if}
{#each step.tools as tool (tool.code)}
  <a class="btn btn-plain mt-3 mr-2" href={`${below}/diff-bench?tool=${tool.code}&step=${step.code}`}
    >Diff bench: {tool.title.charAt(0).toLowerCase()}{tool.title.slice(1)}</a
  >
{/each}
{#if wall}
  <a class="btn btn-plain mt-3" href={`${below}/parts?tab=${wall}`}>Parts wall</a>
{/if}
{#if skipping}
  <ReasonDialog
    title={step.act === "clock" && step.clock ? "Cut the clock short" : "Skip this step"}
    ask="Why? It stays on the record."
    wrong={on.wrong}
    onclose={() => (skipping = false)}
    onreason={async (given) => {
      if (await on.skip(step.code, given)) {
        skipping = false;
        onpassed();
      }
    }}
  />
{/if}
