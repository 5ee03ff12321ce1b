<script lang="ts">
  import type { Bench } from "../api/client";
  import Field from "../lib/Field.svelte";
  import TypedField from "../lib/TypedField.svelte";
  import Notice from "../lib/Notice.svelte";
  import { UNIT_NAMES, when, type LengthUnit } from "../lib/quantity";
  import type { BenchOnScreen } from "./bench.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    unit: LengthUnit;
    mayRecord: boolean;
  }
  let { on, bench, unit, mayRecord }: Props = $props();
  let zero = $state("");
  let block = $state("");
  let blockRead = $state("");
  let back = $state("");
  let instrument = $state("");
  let resolution = $state("");
  let wrong = $state<string | null>(null);
  const last = $derived(bench.instrument);

  async function check(event: SubmitEvent) {
    event.preventDefault();
    wrong = await on.checkInstrument({
      zero,
      block,
      block_read: blockRead,
      back,
      instrument,
      resolution,
    });
    if (wrong === null) zero = block = blockRead = back = "";
  }
</script>

<details>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold">
    Dial indicator: {last === null
      ? "not checked on this job"
      : `${last.name ? `${last.name}, ` : ""}${last.good ? "good" : "out: clean it, clamp it, check again"}, step ${last.resolution_mm} mm, ${when(last.at)}`}
  </summary>
  <p class="max-w-prose">
    Takes one minute. Zero it on a flat, lift it onto a gauge block, then let it down to its mark again. This
    finds a loose stand or a dirty spindle.
  </p>
  {#if mayRecord}
    <form class="mt-2 grid max-w-xl grid-cols-2 gap-3 sm:grid-cols-4" onsubmit={check}>
      <TypedField label="Reading at zero" bind:value={zero} required />
      <TypedField label="Gauge block" bind:value={block} required />
      <TypedField label="Reading on the block" bind:value={blockRead} required />
      <TypedField label="Reading back at the mark" bind:value={back} required />
      <div class="col-span-2">
        <Field label="Dial indicator (number or name)"
          ><input class="input w-full" maxlength="120" bind:value={instrument} /></Field
        >
      </div>
      <TypedField label="Dial step" bind:value={resolution} />
      <button class="btn btn-plain justify-self-start" disabled={on.busy}>Save check</button>
      <p class="quiet col-span-full text-sm">
        Unit when none is typed: {UNIT_NAMES[unit]}. Readings are judged by the dial step. Leave it empty to
        keep {bench.resolution_mm}
        mm.
      </p>
    </form>
  {/if}
  <Notice text={wrong} />
</details>
