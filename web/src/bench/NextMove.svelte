<script lang="ts">
  import type { Bench, Move } from "../api/client";
  import { length, shim, stack, type LengthUnit } from "../lib/quantity";
  import type { TrialTyped } from "./bench.svelte";

  interface Props {
    bench: Bench;
    unit: LengthUnit;
    mayRecord: boolean;
    busy: boolean;
    /** every position is read, so that this is what wants a hand next */
    due: boolean;
    ondo: (typed: TrialTyped) => void;
  }
  let { bench, unit, mayRecord, busy, due, ondo }: Props = $props();
  const next = $derived(bench.next);
  const trial = $derived(bench.trials.at(-1) ?? null);

  function doIt(move: Move) {
    const note = "as proposed";
    if (move.ring_side_notches !== null && move.far_side_notches !== null) {
      ondo({
        ring_side_notches: move.ring_side_notches,
        far_side_notches: move.far_side_notches,
        from_drawer: false,
        note,
      });
    } else {
      ondo({
        ring_side: move.typed_ring_side ?? "",
        far_side: move.typed_far_side ?? "",
        from_drawer: true,
        note,
      });
    }
  }
  function turned(notches: number): string {
    if (notches === 0) return "leave";
    return `${Math.abs(notches)} ${Math.abs(notches) === 1 ? "notch" : "notches"} ${notches > 0 ? "in" : "out"}`;
  }
</script>

{#snippet side(
  name: string,
  where: string,
  now: number | null,
  then: number | null,
  pieces: Move["ring_side"],
)}
  <tr class="border-line border-t">
    <th scope="row" class="py-1 pr-3 text-left font-normal"
      >{name} <span class="quiet text-sm">{where}</span></th
    >
    <td class="pr-3 whitespace-nowrap">{now === null ? "" : shim(now, unit)}</td>
    <td class="whitespace-nowrap"><strong>{then === null ? "" : shim(then, unit)}</strong></td>
    <td class="pl-3">{pieces ? stack(pieces, unit) : ""}</td>
  </tr>
{/snippet}

<section aria-labelledby="next-move" class="rule-top pt-3">
  <h2 id="next-move">Next</h2>
  <p class="figure mt-1 text-2xl leading-tight">{next.text}</p>
  {#if next.move}
    {@const move = next.move}
    {#if move.ring_side_notches_move !== null && move.far_side_notches_move !== null}
      <p class="mt-2 text-lg">
        Ring-side adjuster <strong>{turned(move.ring_side_notches_move)}</strong>, far-side adjuster
        <strong>{turned(move.far_side_notches_move)}</strong>. The last turn of an adjuster is inward.
      </p>
    {:else}
      <table class="mt-2 w-full max-sm:text-sm">
        <thead>
          <tr class="quiet text-left"
            ><th scope="col">Shims</th><th scope="col">Now</th><th scope="col">Then</th><th
              scope="col"
              class="pl-3">From the drawer</th
            ></tr
          >
        </thead>
        <tbody>
          {@render side(
            "Ring side",
            "behind the ring",
            trial?.ring_side_mm ?? null,
            move.ring_side_mm,
            move.ring_side,
          )}
          {@render side(
            "Far side",
            "tooth side",
            trial?.far_side_mm ?? null,
            move.far_side_mm,
            move.far_side,
          )}
        </tbody>
      </table>
    {/if}
    <p class="mt-2">
      The ring moves {length(Math.abs(move.ring_move_mm), unit)}
      {move.ring_move_mm >= 0 ? "away from" : "toward"} the pinion. Expected:
      <strong>{length(move.expected_least_mm, unit)} to {length(move.expected_greatest_mm, unit)}</strong>,
      {move.lands ? "inside the window." : "still outside the window."}
    </p>
    {#each move.reasons as reason (reason.code)}<p class="border-out mt-1 border-l-4 pl-3">
        {reason.text}
      </p>{/each}
    {#if mayRecord}
      <button
        class={["btn mt-3", due ? "btn-primary" : "btn-neutral"]}
        disabled={busy}
        onclick={() => doIt(move)}>It is in the housing: begin trial {(trial?.number ?? 0) + 1}</button
      >
    {/if}
  {:else if next.kind === "identify"}
    <a class="btn btn-primary mt-3" href={`/jobs/${bench.job_id}/gear-set`}>Identify the gear set</a>
  {:else if next.kind === "finished"}
    <a class={["btn mt-3", due ? "btn-primary" : "btn-neutral"]} href={`/jobs/${bench.job_id}`}
      >Back to the run sheet</a
    >
  {/if}
</section>
