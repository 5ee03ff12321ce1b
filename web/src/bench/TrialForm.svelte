<script lang="ts">
  import { untrack } from "svelte";

  import type { Bench } from "../api/client";
  import { UNIT_NAMES, type LengthUnit } from "../lib/quantity";
  import Field from "../lib/Field.svelte";
  import { turnsNotches } from "../lib/words";
  import type { TrialTyped } from "./bench.svelte";

  interface Props {
    bench: Bench;
    unit: LengthUnit;
    busy: boolean;
    onbegin: (typed: TrialTyped) => void;
  }
  let { bench, unit, busy, onbegin }: Props = $props();
  const notches = $derived(turnsNotches(bench.carrier_method));
  const last = untrack(() => bench.trials.at(-1) ?? null);
  let ringSide = $state("");
  let farSide = $state("");
  let ringNotches = $state(last?.ring_side_notches ?? 0);
  let farNotches = $state(last?.far_side_notches ?? 0);
  let note = $state("");

  function begin(event: SubmitEvent) {
    event.preventDefault();
    const rest = { from_drawer: false, note };
    onbegin(
      notches
        ? { ring_side_notches: ringNotches, far_side_notches: farNotches, ...rest }
        : { ring_side: ringSide, far_side: farSide, ...rest },
    );
  }
</script>

<form class="grid max-w-xl gap-4" onsubmit={begin}>
  {#if notches}
    <p>
      Adjusters are counted in whole notches from where they stood first; + is in.
      {last === null ? "The first trial is 0 and 0." : ""}
    </p>
    <div class="grid grid-cols-2 gap-3">
      <Field label="Ring side, notches"
        ><input class="input w-full" type="number" step="1" required bind:value={ringNotches} /></Field
      >
      <Field label="Far side, notches"
        ><input class="input w-full" type="number" step="1" required bind:value={farNotches} /></Field
      >
    </div>
  {:else}
    <p>
      Measure each shim, and write the stack as it lies: <strong>4.60 mm + 0.05 mm</strong>, or
      <strong>none</strong>. A bare number is
      {UNIT_NAMES[unit]}.
    </p>
    <div class="grid gap-3 sm:grid-cols-2">
      <Field label="Ring side" hint="Behind the ring gear's back">
        <input class="input w-full" required maxlength="200" autocomplete="off" bind:value={ringSide} />
      </Field>
      <Field label="Far side" hint="The tooth side">
        <input class="input w-full" required maxlength="200" autocomplete="off" bind:value={farSide} />
      </Field>
    </div>
  {/if}
  <Field label="Note"><input class="input w-full" maxlength="200" bind:value={note} /></Field>
  <button class={["btn justify-self-start", last === null ? "btn-primary" : "btn-neutral"]} disabled={busy}
    >Begin trial {(last?.number ?? 0) + 1}</button
  >
</form>
