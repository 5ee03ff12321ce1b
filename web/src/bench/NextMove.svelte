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
  const due = $derived(on.position === null && !on.thinking);
  const READ_AT: Record<string, Tab> = {
    drive: "pattern",
    coast: "pattern",
    backlash: "backlash",
    depth_error_mm: "depth",
  };
  const NAMES = {
    best: "Best",
    smallest: "Smallest change",
    depth_only: "Depth alone",
    ring_only: "Ring alone",
  };
  /** not where a reading contradicts the rest: the odds are those of the rest */
  const told = (kind: Advice["kind"], body: AdviceBody) =>
    ["move", "read_again", "finished"].includes(kind) && body.conflicts.length === 0;
  const ACTS = {
    finished: "Leave it",
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
        ><th scope="col">Shims</th><th scope="col">Now</th><th scope="col">Then</th><th scope="col">Stack</th
        ></tr
      >
    </thead>
    <tbody>
      {@render side("Depth", trial.depth_shim_mm, move.depth_shim_mm, move.depth)}
      {#if move.ring_side_mm !== null}
        {@render side(sides.ring, trial.ring_side_mm, move.ring_side_mm, move.ring_side)}
        {@render side(sides.far, trial.far_side_mm, move.far_side_mm, move.far_side)}
      {/if}
    </tbody>
  </table>
  {#if move.ring_side_notches_move !== null && move.far_side_notches_move !== null}
    <p class="mt-1">
      Ring-side adjuster <strong>{turned(move.ring_side_notches_move)}</strong>, far-side
      <strong>{turned(move.far_side_notches_move)}</strong>; the last turn inward.
    </p>
  {/if}
  {#if move.spacer_change_mm && Math.abs(move.spacer_change_mm) > 0.0005}
    <p class="mt-1">
      The pinion's preload stack changes by <strong>{signed(move.spacer_change_mm, unit)}</strong> with the depth
      shim, or the preload is lost.
    </p>
  {/if}
  {#if move.preload_changes_mm !== null && Math.abs(move.preload_changes_mm) > 0.0005}
    <p class="mt-1">
      Both stacks together change by <strong>{signed(move.preload_changes_mm, unit)}</strong>: carrier preload
      follows.
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
    to land in the window <span class="quiet text-sm">(the model's estimate)</span>
  </p>
  {@render change(best)}
  {#if mayRecord}
    <button
      class={["btn mt-3", due && advice?.kind === "move" ? "btn-primary" : "btn-neutral"]}
      disabled={on.busy || on.thinking}
      onclick={() => doIt(best)}>It is in the housing: begin trial {trial.number + 1}</button
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
              >This one is in</button
            >
          {/if}
        </li>
      {/each}
      <li class="border-line border-t pt-2">
        <strong>Stop here</strong>, {oddsWords(body.stay_percent)} that it is in as it stands.
      </li>
    </ul>
  </details>
{/snippet}

<section aria-labelledby="next-move" aria-live="polite">
  <h2 id="next-move" class="rule-top pt-3">
    Next {#if on.thinking}<span class="quiet text-base font-normal">working it out…</span>{/if}
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
        <h3 class="mt-3">Look here, in this order</h3>
        <ol class="list-decimal pl-6">
          {#each body.look_for as place (place)}<li class="py-0.5">{place}</li>{/each}
        </ol>
      {/if}
      {#if advice.kind === "read_again"}
        {#each body.reasons as reason (reason.code + reason.text)}<p class="mt-2">
            {reason.text}
          </p>{/each}
        {#if mayRecord}
          <button
            class={["btn mt-3", due ? "btn-primary" : "btn-neutral"]}
            onclick={() =>
              ontab(body.conflicts.some((one) => one.field === "backlash") ? "backlash" : "pattern")}
            >Read it again</button
          >
        {/if}
      {/if}
      {#if advice.kind === "finished"}
        {#if trial.is_final}
          {#if bench.final_missing}
            <p class="mt-2"><strong>Still to come.</strong> {bench.final_missing}</p>
          {:else}
            <p class="mt-2">Everything was read after the final assembly, and it is in.</p>
            <a
              class={["btn mt-3", bench.signed_off ? "btn-plain" : "btn-primary"]}
              href={`/jobs/${bench.job_id}/work/${bench.work_id}`}>Back to the run sheet</a
            >
          {/if}
        {:else}
          <p class="mt-2">
            Contact finished is not done. Final bearings, seal, {bench.preload_label.toLowerCase()} and new nut
            go in; then everything is read once more.
          </p>
          {#if mayRecord}
            {#if trial.bearings === "set_up"}
              <button class="btn btn-neutral mt-3" onclick={onother}
                >Final bearings go in: say with which depth shim</button
              >
            {:else}
              <button
                class={["btn mt-3", due ? "btn-primary" : "btn-neutral"]}
                disabled={on.busy || on.thinking}
                onclick={assemble}>It is assembled: begin the final reading</button
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
          <summary class="min-h-touch cursor-pointer py-2 font-semibold">If it had to move now</summary>
          <p class="font-semibold">{best.text}</p>
          {@render proposed(body, best)}
        </details>
      {/if}
      {#if advice.kind !== "not_by_shims" && body.acts.length > 0}
        <details>
          <summary class="min-h-touch cursor-pointer py-2 font-semibold">Why it says so</summary>
          <table class="mb-2">
            <thead>
              <tr class="quiet text-left text-sm">
                <th scope="col" class="pr-4">What to do</th>
                <th scope="col" class="pr-4">Odds</th>
                <th scope="col">Minutes until it is done</th>
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
            Expected, with what may follow. Counted with {body.costs.move_minutes} minutes for a move ({body
              .costs.press_minutes} more where a bearing is pressed), {body.costs.read_minutes} for painting and
            reading, {body.costs.wrong_minutes} for a set that is called finished and is not{body.costs.learnt
              .length > 0
              ? "; the first from this shop's own jobs"
              : ""}.
          </p>
          <ul class="list-disc pl-5">
            {#each advice.kind === "read_again" ? [] : body.reasons as reason (reason.code + reason.text)}<li>
                {reason.text}
              </li>{/each}
            <li>
              From all trials together the pinion stands {signed(body.estimate.pinion_mm, unit)} (+ too shallow)
              and the ring {signed(body.estimate.ring_mm, unit)} (+ too far) from where this set wants them. A ring
              move of 1 changes the backlash by {body.estimate.backlash_per_ring_move.toFixed(2)}, learnt from
              this job's own moves too.
            </li>
          </ul>
        </details>
      {/if}
    {/if}
    {#if advice.kind === "identify"}
      <a class="btn btn-primary mt-3" href={`/jobs/${bench.job_id}/work/${bench.work_id}/gear-set`}
        >Identify the gear set</a
      >
    {/if}
  {:else}
    <p class="quiet mt-1">{on.lost ? "The connection is lost; the advice comes when it is back." : "…"}</p>
  {/if}
</section>
