<script lang="ts">
  import type { Bench, Reading } from "../api/client";
  import { degrees, length, otherLength, UNIT_NAMES, type LengthUnit } from "../lib/quantity";
  import type { BenchOnScreen } from "./bench.svelte";
  import { mayAnswer, shouldCatch } from "./keys";
  import TypedLength from "./TypedLength.svelte";
  import WindowBar from "./WindowBar.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    unit: LengthUnit;
    onstrike: (reading: Reading) => void;
    /** nothing else on the screen comes first */
    next: boolean;
  }
  let { on, bench, unit, onstrike, next }: Props = $props();
  let typed = $state("");
  let field: HTMLInputElement | undefined = $state();

  const readings = $derived(on.trial?.readings ?? []);
  const last = $derived(on.live.at(-1));

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
      on.wrong = "Every position is read. Choose a position to measure it again.";
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
  /** Letters that no reading begins with; figures always belong to the next reading. */
  const LETTERS = "abc";
  function anywhere(event: KeyboardEvent) {
    if (on.asked !== null && typed === "" && mayAnswer(event, field)) {
      const choice = on.asked.question.choices[LETTERS.indexOf(event.key.toLowerCase())];
      if (choice) on.answer(choice);
      else if (event.key.toLowerCase() === "x") on.discard();
      else return;
      event.preventDefault();
      return;
    }
    if (on.answered !== null && typed === "" && mayAnswer(event, field) && event.key.toLowerCase() === "u") {
      void on.takeBackAnswer();
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
      <p class="quiet text-sm">
        {on.readThisRound} of {bench.positions_deg.length} positions{on.rounds > 1
          ? `, round ${on.rounds}`
          : ""}
      </p>
    </div>
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
          on.position === null || !next ? "border-base-content" : "border-next",
        ]}
      >
        <span class="sr-only">Reading, {UNIT_NAMES[unit]} unless a unit is typed with it</span>
        <input
          bind:this={field}
          bind:value={typed}
          data-strip
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
      <button class="btn btn-neutral">Record</button>
    </form>
    <div class="min-w-0 max-lg:col-span-2">
      <WindowBar {bench} values={on.live.map((reading) => reading.value_mm)} />
      <div
        class="flex min-h-6 items-baseline gap-x-3 whitespace-nowrap max-sm:flex-wrap sm:overflow-x-auto"
        tabindex="-1"
      >
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
            >{on.waiting.length} waiting: {on.waiting.length === on.doubtful.length
              ? "your answer"
              : on.saving
                ? "saving on this device"
                : on.lost
                  ? "no connection"
                  : "being sent"}</strong
          >
        {/if}
      </div>
    </div>
    {#if on.asked}
      <div
        class="border-base-content col-span-full border-t pt-1"
        role="group"
        aria-label="A question about a reading"
      >
        <p class="mb-1" role="status">
          <strong>At {degrees(on.asked.waiting.angle_deg)}, not recorded yet:</strong>
          {on.asked.question.text}
        </p>
        <div class="flex flex-wrap gap-2">
          {#each on.asked.question.choices as choice, index (choice.label)}
            <button
              class={["btn", index === 0 ? "btn-primary" : "btn-neutral"]}
              onclick={() => on.asked && on.answer(choice)}
              >{choice.label} <kbd class="opacity-80">{LETTERS[index]?.toUpperCase()}</kbd></button
            >
          {/each}
          <button class="btn btn-plain" onclick={() => on.discard()}
            >Discard <kbd class="opacity-80">X</kbd></button
          >
        </div>
      </div>
    {:else if on.answered}
      <p class="col-span-full flex flex-wrap items-center gap-x-3" role="status">
        {on.answered.kind === "recorded" ? "Recorded" : "Discarded"}
        {on.answered.said} at {degrees(on.answered.waiting.angle_deg)}.
        <button class="btn btn-plain btn-sm" onclick={() => void on.takeBackAnswer()}
          >Undo <kbd class="opacity-80">U</kbd></button
        >
      </p>
    {/if}
    {#if on.wrong}<p class="border-out bg-base-200 col-span-full border-l-4 px-3 py-1.5" role="alert">
        {on.wrong}
      </p>{/if}
  </div>
</section>
