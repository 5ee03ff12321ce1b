<script lang="ts">
  import type { Advice, AdviceBody, Bench, Proposal, Schemas, Trial } from "../api/client";
  import { length, shim, signed, typedStack, type LengthUnit } from "../lib/quantity";
  import BeforeAndAfter from "./BeforeAndAfter.svelte";
  import type { BenchOnScreen, TrialTyped } from "./bench.svelte";
  import type { Tab } from "./BenchTabs.svelte";
  import { oddsWords, turned } from "./odds";
  import { sideNames } from "./sides";
  import StackDrawing from "./StackDrawing.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    trial: Trial;
    unit: LengthUnit;
    mayRecord: boolean;
    ontab: (tab: Tab) => void;
    /** open the form for what else went in */
    onother: () => void;
  }
  let { on, bench, trial, unit, mayRecord, ontab, onother }: Props = $props();
  const advice = $derived<Advice | null>(on.advice);
  const body = $derived(advice?.advice ?? null);
  const sides = $derived(sideNames(bench.start));
  const best = $derived(body?.proposals[0] ?? null);
  const others = $derived(body?.proposals.slice(1) ?? []);
  /** every position is read, so that this is what wants a hand next */
  const due = $derived(on.position === null && on.asked === null && trial.counts && !on.thinking);
  const READ_AT: Record<string, Tab> = {
    drive: "pattern",
    coast: "pattern",
    backlash: "backlash",
    depth_error_mm: "depth",
  };
  /** where what does not fit the rest is read; else the patterns, which tell more */
  const doubted = $derived<Tab>(
    body?.conflicts.some((one) => one.field === "backlash") ? "backlash" : "pattern",
  );
  const NAMES = {
    best: "Best",
    smallest: "Smallest change",
    depth_only: "Depth only",
    ring_only: "Ring gear only",
  };
  /** not where a reading contradicts the rest: the odds are those of the rest */
  const told = (kind: Advice["kind"], body: AdviceBody) =>
    ["move", "read_again", "finished"].includes(kind) && body.conflicts.length === 0;
  const ACTS = {
    finished: "Leave it as it is",
    read_again: "Paint and read again",
    measure: "Measure the depth",
    move: "Best move",
  };
  const ASSEMBLED = { crush_sleeve: "sleeve", spacer: "spacer", outer_shims: "outer_shims" } as const;

  function doIt(move: Proposal) {
    const kept: TrialTyped = {
      preload_part: trial.preload_part,
      bearings: trial.bearings,
      from_drawer: true,
      note: "as proposed",
      ...(move.typed_depth === "" ? {} : { depth: move.typed_depth }),
    };
    void on.begin(
      move.ring_side_notches !== null && move.far_side_notches !== null
        ? { ...kept, ring_side_notches: move.ring_side_notches, far_side_notches: move.far_side_notches }
        : { ...kept, ring_side: move.typed_ring_side, far_side: move.typed_far_side },
    );
  }
  function assemble() {
    const kept: TrialTyped = {
      preload_part: ASSEMBLED[bench.preload_method],
      is_final: true,
      note: "final assembly",
    };
    void on.begin(
      trial.ring_side_notches !== null && trial.far_side_notches !== null
        ? { ...kept, ring_side_notches: trial.ring_side_notches, far_side_notches: trial.far_side_notches }
        : {
            ...kept,
            ring_side: typedStack(trial.ring_side ?? []),
            far_side: typedStack(trial.far_side ?? []),
          },
    );
  }
</script>

{#snippet side(name: string, now: number | null, then: number | null, pieces: Schemas["PieceOut"][] | null)}
  {@const stays = now !== null && then !== null && Math.abs(now - then) < 0.0005}
  <tr class="border-line border-t align-top">
    <th scope="row" class="py-1 pr-2 text-left font-normal">{name}</th>
    <td class="py-1 pr-2 whitespace-nowrap">{now === null ? "" : shim(now, unit)}</td>
    {#if stays}
      <td class="quiet py-1" colspan="2">stays</td>
    {:else}
      <td class="py-1 pr-2 whitespace-nowrap"><strong>{then === null ? "" : shim(then, unit)}</strong></td>
      <td class="py-1"
        >{#if pieces}<StackDrawing {pieces} {unit} />{/if}</td
      >
    {/if}
  </tr>
{/snippet}

{#snippet change(move: Proposal)}
  <table class="mt-2 w-full">
    <thead class={[move.kind !== "best" && "sr-only"]}>
      <tr class="quiet text-left text-sm"
        ><th scope="col">Shims</th><th scope="col">Now</th><th scope="col">After</th><th scope="col">Stack</th
        ></tr
      >
    </thead>
    <tbody>
      {@render side("Depth shim", trial.depth_shim_mm, move.depth_shim_mm, move.depth)}
      {#if move.ring_side_mm !== null}
        {@render side(sides.ring, trial.ring_side_mm, move.ring_side_mm, move.ring_side)}
        {@render side(sides.far, trial.far_side_mm, move.far_side_mm, move.far_side)}
      {/if}
    </tbody>
  </table>
  {#if move.ring_side_notches_move !== null && move.far_side_notches_move !== null}
    <p class="mt-1">
      Ring-side adjuster <strong>{turned(move.ring_side_notches_move)}</strong>, far-side
      <strong>{turned(move.far_side_notches_move)}</strong>; turn each inward last.
    </p>
  {/if}
  {#if move.spacer_change_mm && Math.abs(move.spacer_change_mm) > 0.0005}
    <p class="mt-1">
      Change the pinion preload stack by <strong>{signed(move.spacer_change_mm, unit)}</strong> together with the
      depth shim, or the preload changes.
    </p>
  {/if}
  {#if move.preload_changes_mm !== null && Math.abs(move.preload_changes_mm) > 0.0005}
    <p class="mt-1">
      Both stacks together change by <strong>{signed(move.preload_changes_mm, unit)}</strong>, which changes
      the side-bearing preload.
    </p>
  {/if}
  <p class="mt-1">
    Expected backlash <strong>{length(move.expected.backlash_mm, unit)}</strong>
    <span class="whitespace-nowrap">± {length(move.expected.backlash_sd_mm, unit)}</span>
  </p>
{/snippet}

{#snippet proposed(body: AdviceBody, best: Proposal)}
  <p class="mt-2">
    <strong class="figure text-2xl">{oddsWords(best.odds_percent)}</strong>
    likely to be in the window <span class="quiet text-sm">(estimate)</span>
  </p>
  {@render change(best)}
  {#if mayRecord}
    <button
      class={["btn mt-3", due && advice?.kind === "move" ? "btn-primary" : "btn-neutral"]}
      disabled={on.busy || on.thinking}
      onclick={() => doIt(best)}>Start trial {trial.number + 1}</button
    >
  {/if}
  <div class="mt-4"><BeforeAndAfter {on} {bench} place={best.place} /></div>
  {#if body.order}<p class="border-base-content mt-3 border-2 px-3 py-2">{body.order}</p>{/if}
  <details class="mt-2">
    <summary class="min-h-touch cursor-pointer py-2 font-semibold">Other ways</summary>
    <ul class="grid gap-3">
      {#each others as one (one.kind)}
        <li class="border-line border-t pt-2">
          <p><strong>{NAMES[one.kind]}</strong>, {oddsWords(one.odds_percent)}. {one.text}</p>
          {@render change(one)}
          {#if mayRecord}
            <button class="btn btn-plain mt-2" disabled={on.busy || on.thinking} onclick={() => doIt(one)}
              >Use this one</button
            >
          {/if}
        </li>
      {/each}
      <li class="border-line border-t pt-2">
        <strong>Finish here</strong>, {oddsWords(body.stay_percent)} likely to be in as it stands.
      </li>
    </ul>
  </details>
{/snippet}

<section aria-labelledby="next-move" aria-live="polite">
  <h2 id="next-move" class="rule-top pt-3">
    Next {#if on.thinking}<span class="quiet text-base font-normal">calculating…</span>{/if}
  </h2>
  {#if advice}
    <p class="figure mt-1 text-2xl leading-tight">{advice.text}</p>
    {#if body}
      {#if told(advice.kind, body)}<p class="mt-2">{body.why}</p>{/if}
      {#each body.conflicts as conflict (conflict.trial + conflict.field)}
        <p class="border-out bg-base-200 mt-2 border-l-4 px-3 py-1.5">{conflict.text}</p>
      {/each}
      {#if advice.kind === "not_by_shims"}
        {#each body.reasons as reason (reason.code + reason.text)}<p class="mt-2">
            {reason.text}
          </p>{/each}
        <h3 class="mt-3">Check in this order</h3>
        <ol class="list-decimal pl-6">
          {#each body.look_for as place (place)}<li class="py-0.5">{place}</li>{/each}
        </ol>
      {/if}
      {#if advice.kind === "read_again"}
        {#each body.reasons as reason (reason.code + reason.text)}<p class="mt-2">
            {reason.text}
          </p>{/each}
        {#if mayRecord}
          <button class={["btn mt-3", due ? "btn-primary" : "btn-neutral"]} onclick={() => ontab(doubted)}
            >{doubted === "backlash" ? "Read it again" : "Paint and read again"}</button
          >
          {#if on.position === null}
            <button
              class="btn btn-neutral mt-3"
              onclick={() => {
                on.roundAgain();
                ontab("backlash");
              }}>Read the backlash again</button
            >
          {/if}
        {/if}
      {/if}
      {#if advice.kind === "finished"}
        {#if trial.is_final}
          {#if bench.final_missing}
            <p class="mt-2"><strong>Not read yet.</strong> {bench.final_missing}</p>
          {:else}
            <p class="mt-2">Everything was read after the final assembly, and it is in.</p>
            <a
              class={["btn mt-3", bench.signed_off ? "btn-plain" : due ? "btn-primary" : "btn-neutral"]}
              href={`/jobs/${bench.job_id}/work/${bench.work_id}`}>Back to the run sheet</a
            >
          {/if}
        {:else}
          <p class="mt-2">
            The trial set-up is finished, the job is not. Fit the final bearings, seal, {bench.preload_label.toLowerCase()}
            and new pinion nut, then read everything again.
          </p>
          {#if mayRecord}
            {#if trial.bearings === "set_up"}
              <button class="btn btn-neutral mt-3" onclick={onother}
                >Fit the final bearings: enter the depth shim</button
              >
            {:else}
              <button
                class={["btn mt-3", due ? "btn-primary" : "btn-neutral"]}
                disabled={on.busy || on.thinking}
                onclick={assemble}>Start the final reading</button
              >
            {/if}
          {/if}
        {/if}
      {/if}
      {#if advice.kind === "measure" && body.reasons.some((one) => one.code === "worth_measuring")}
        <button class="btn btn-neutral mt-3" onclick={() => ontab("depth")}>Measure the depth</button>
      {/if}
      {#if body.next_reading && advice.kind !== "finished"}
        {@const to = READ_AT[body.next_reading.what] ?? "pattern"}
        <p class="mt-2">
          {body.next_reading.text}
          <button class="btn btn-plain btn-sm mt-1 block" onclick={() => ontab(to)}
            >{to === "pattern" ? "Paint it now" : "Read it now"}</button
          >
        </p>
      {/if}
      {#if best && advice.kind === "move"}
        {@render proposed(body, best)}
      {:else if best && advice.kind !== "finished"}
        <details class="mt-2">
          <summary class="min-h-touch cursor-pointer py-2 font-semibold">If you had to move it now</summary>
          <p class="font-semibold">{best.text}</p>
          {@render proposed(body, best)}
        </details>
      {/if}
      {#if advice.kind !== "not_by_shims" && body.acts.length > 0}
        <details>
          <summary class="min-h-touch cursor-pointer py-2 font-semibold">Reasons</summary>
          <table class="mb-2">
            <thead>
              <tr class="quiet text-left text-sm">
                <th scope="col" class="pr-4">Action</th>
                <th scope="col" class="pr-4">Odds</th>
                <th scope="col">Minutes to finish</th>
              </tr>
            </thead>
            <tbody>
              {#each body.acts as one, index (one.act)}
                <tr class="border-line border-t">
                  <th scope="row" class={["py-1 pr-4 text-left", index > 0 && "font-normal"]}
                    >{ACTS[one.act]}</th
                  >
                  <td class="py-1 pr-4">{one.act === "measure" ? "" : oddsWords(one.odds_percent)}</td>
                  <td class="figure py-1">{Math.round(one.minutes)}</td>
                </tr>
              {/each}
            </tbody>
          </table>
          <p class="quiet mb-2 text-sm">
            Expected minutes, including what may follow. Calculated with {body.costs.move_minutes} minutes for a
            move ({body.costs.press_minutes} more where a bearing has to be pressed off), {body.costs
              .read_minutes} for painting and reading, {body.costs.wrong_minutes} for a set-up that is called finished
            and is not{body.costs.learnt.length > 0 ? "; learnt from this workshop's own jobs" : ""}. A move
            counts for more than its minutes while the set may be in as it stands.
          </p>
          <ul class="list-disc pl-5">
            {#each advice.kind === "read_again" ? [] : body.reasons as reason (reason.code + reason.text)}<li>
                {reason.text}
              </li>{/each}
            <li>
              From all trials together, the pinion is {signed(body.estimate.pinion_mm, unit)} (+ too shallow) and
              the ring gear {signed(body.estimate.ring_mm, unit)} (+ too far out) from the best position. Moving
              the ring gear by 1 changes the backlash by {body.estimate.backlash_per_ring_move.toFixed(2)},
              learnt from this job's own moves too.
            </li>
          </ul>
        </details>
      {/if}
    {/if}
    {#if advice.kind === "identify"}
      <a
        class={["btn mt-3", due ? "btn-primary" : "btn-neutral"]}
        href={`/jobs/${bench.job_id}/work/${bench.work_id}/gear-set`}>Identify the gear set</a
      >
    {/if}
  {:else}
    <p class="quiet mt-1">{on.lost ? "The connection is lost; the advice comes when it is back." : "…"}</p>
  {/if}
</section>
