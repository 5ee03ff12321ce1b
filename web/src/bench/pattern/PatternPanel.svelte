<script lang="ts">
  import type { Bench, Contact, Trial } from "../../api/client";
  import type { LengthUnit } from "../../lib/quantity";
  import VerdictMark from "../../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../../lib/words";
  import BasisForm from "../BasisForm.svelte";
  import type { BenchOnScreen } from "../bench.svelte";
  import PatternEntry from "./PatternEntry.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    trial: Trial;
    unit: LengthUnit;
    mayRecord: boolean;
  }
  let { on, bench, trial, unit, mayRecord }: Props = $props();
  let contact = $state.raw<Contact | null>(null);
  const FLANKS = ["drive", "coast"] as const;
  const repeats = $derived(Math.max(trial.drive?.mean.count ?? 0, trial.coast?.mean.count ?? 0));
  const USUAL = {
    rear: "rear axle, or front axle with a reverse-cut set",
    front: "front axle with a standard-cut set",
  };

  // the model's own patch follows the estimate
  $effect(() => {
    const settled = on.advice;
    let stale = false;
    if (settled?.advice) void on.contact(null).then((found) => (contact = stale ? contact : found));
    return () => (stale = true);
  });
</script>

<div class="mb-2 flex flex-wrap items-center gap-x-3" role="status">
  <VerdictMark verdict={trial.pattern_verdict} size={34} />
  <h2 class="text-3xl!">{VERDICT_WORDS[trial.pattern_verdict]}</h2>
  <p class="quiet">
    {trial.drive || trial.coast
      ? "Only the middle of each pattern counts, not the paint thickness or the size."
      : "Paint a few teeth, load the gears by hand and turn both ways. Then make the patch look like the painted tooth."}
  </p>
</div>
{#if repeats > 1 && trial.pattern_verdict !== "unknown"}<p class="mb-2">
    By the mean of {repeats} readings.
  </p>{/if}
{#each trial.pattern_reasons as reason (reason.code + reason.text)}<p class="border-out mb-2 border-l-4 pl-3">
    {reason.text}
  </p>{/each}
<div class="grid grid-cols-[minmax(0,1fr)] gap-x-6 gap-y-8 md:grid-cols-2">
  {#each FLANKS as flank (flank + trial.id)}
    <PatternEntry {on} {bench} {trial} {flank} {contact} {mayRecord} />
  {/each}
</div>
<p class="quiet mt-3">
  Amber: the pattern as you read it, with a cross at its middle. Dots: every reading so far; circle: their
  mean. Solid line: pattern estimated from all trials. Dotted box: window for the middle without load. Under
  load the pattern moves toward the heel.
</p>
<details class="mt-2">
  <summary class="min-h-touch cursor-pointer py-2 font-semibold">
    {bench.start.asked ? "" : "Assumed so far: "}{bench.start.set_state === "used"
      ? "used set, back to as found"
      : "new set"}, {bench.start.drive_flank === "convex" ? USUAL.rear : USUAL.front}
  </summary>
  {#if mayRecord}{#key bench.start}<BasisForm {on} {bench} {unit} />{/key}{/if}
</details>
