<script lang="ts">
  import type { Bench, Reading } from "../api/client";
  import { length, otherLength, UNIT_NAMES, type LengthUnit } from "../lib/quantity";
  import type { BenchOnScreen } from "./bench.svelte";
  import { shouldCatch } from "./keys";
  import TypedLength from "./TypedLength.svelte";
  import WindowBar from "./WindowBar.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    unit: LengthUnit;
    onstrike: (reading: Reading) => void;
  }
  let { on, bench, unit, onstrike }: Props = $props();
  let typed = $state("");
  let field: HTMLInputElement | undefined = $state();

  const readings = $derived(on.trial?.readings ?? []);
  const last = $derived(on.live.at(-1));
  const count = $derived(new Set(on.read).size);

  // what the server would not take stands in the strip again
  $effect(() => {
    if (on.refusedText !== null) {
      typed = on.refusedText;
      on.refusedText = null;
      field?.focus();
    }
  });

  function take() {
    if (typed.trim() === "") return;
    if (on.position === null) {
      on.wrong = "Every position is read. Pick the position to measure again.";
      return;
    }
    on.take(typed);
    typed = "";
    field?.focus();
  }
  function strikeLast() {
    const found = on.lastReading();
    if (found === null) return;
    if (found.mistyped) void on.strike(found.reading, "mistyped");
    else onstrike(found.reading);
  }
  function anywhere(event: KeyboardEvent) {
    if (on.asked !== null) {
      const choice = on.asked.question.choices[Number(event.key) - 1];
      if (choice) on.answer(choice);
      else if (event.key === "Escape") on.retype();
      else return;
      event.preventDefault();
      return;
    }
    if (shouldCatch(event) && field) {
      field.focus();
      typed += event.key;
      event.preventDefault();
    }
  }
</script>

<svelte:window onkeydown={anywhere} />
<section
  class="border-base-content bg-base-100 fixed inset-x-0 bottom-0 z-20 border-t-4"
  aria-label="Reading strip"
>
  <div
    class="mx-auto grid max-w-[80rem] grid-cols-[1fr_auto] items-center gap-x-5 gap-y-1 px-3 py-2 sm:px-5 lg:grid-cols-[11rem_minmax(20rem,1fr)_minmax(0,1.3fr)]"
  >
    <div class="max-lg:col-span-2 max-lg:flex max-lg:items-baseline max-lg:justify-between">
      <p class="figure text-2xl leading-none">
        {on.position === null ? "All read" : `At ${on.position}°`}
      </p>
      <p class="quiet text-sm">{count} of {bench.positions_deg.length} positions</p>
    </div>
    {#if on.asked}
      <div class="max-lg:col-span-2" role="alertdialog" aria-label="A question about this reading">
        <p class="mb-1">{on.asked.question.text}</p>
        <div class="flex flex-wrap gap-2">
          {#each on.asked.question.choices as choice, index (choice.label)}
            <button class="btn btn-primary" onclick={() => on.answer(choice)}
              >{choice.label} <kbd class="opacity-80">{index + 1}</kbd></button
            >
          {/each}
          <button class="btn btn-plain" onclick={() => on.retype()}
            >Type it again <kbd class="opacity-80">Esc</kbd></button
          >
        </div>
      </div>
    {:else}
      <form
        class="flex items-center gap-2 max-lg:col-span-2"
        onsubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        <label
          class={[
            "flex min-w-0 grow items-baseline gap-2 border-b-4",
            on.position === null ? "border-base-content" : "border-next",
          ]}
        >
          <span class="sr-only">Reading, {UNIT_NAMES[unit]} unless a unit is typed with it</span>
          <input
            bind:this={field}
            bind:value={typed}
            class="figure text-reading w-full min-w-0 bg-transparent outline-none focus-visible:outline-none"
            inputmode="decimal"
            autocomplete="off"
            maxlength="40"
            onkeydown={(event) => {
              if (event.key === "Backspace" && typed === "") {
                event.preventDefault();
                strikeLast();
              }
            }}
          />
          <span class="figure text-3xl whitespace-nowrap" aria-hidden="true">{UNIT_NAMES[unit]}</span>
        </label>
        <button class="btn btn-neutral">Take</button>
      </form>
    {/if}
    <div class="min-w-0 max-lg:col-span-2">
      <WindowBar {bench} values={on.live.map((reading) => reading.value_mm)} />
      <div class="flex min-h-6 items-baseline gap-x-3 overflow-x-auto whitespace-nowrap" tabindex="-1">
        {#if typed !== ""}
          <TypedLength {typed} {unit} />
        {:else if last}
          <span>last {length(last.value_mm, unit)} = {otherLength(last.value_mm, unit)}</span>
          <span class="quiet hidden text-sm md:inline">
            {#each readings.slice(-6) as reading (reading.id)}<span
                class={["mr-2", reading.struck && "line-through"]}>{reading.typed}</span
              >{/each}
          </span>
        {/if}
        {#if on.waiting.length > 0}
          <strong role="status"
            >{on.waiting.length} kept here, {on.asked
              ? "until you answer"
              : on.lost
                ? "waiting for the connection"
                : "on the way"}</strong
          >
        {/if}
      </div>
    </div>
    {#if on.wrong}<p class="border-out bg-base-200 col-span-full border-l-4 px-3 py-1.5" role="alert">
        {on.wrong}
      </p>{/if}
  </div>
</section>
