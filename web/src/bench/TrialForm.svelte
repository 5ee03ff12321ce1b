<script lang="ts">
  import { untrack } from "svelte";

  import type { Bench, Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import TypedField from "../lib/TypedField.svelte";
  import { shim, signed, typedStack, UNIT_NAMES, type LengthUnit } from "../lib/quantity";
  import { turnsNotches } from "../lib/words";
  import type { TrialTyped } from "./bench.svelte";
  import { sideNames } from "./sides";

  interface Props {
    bench: Bench;
    unit: LengthUnit;
    busy: boolean;
    onbegin: (typed: TrialTyped) => void;
  }
  let { bench, unit, busy, onbegin }: Props = $props();
  type Part = Schemas["TrialIn"]["preload_part"];
  const notches = $derived(turnsNotches(bench.carrier_method));
  const sides = $derived(sideNames(bench.start));
  const last = untrack(() => bench.trials.at(-1) ?? null);
  let ringSide = $state("");
  let farSide = $state("");
  let ringNotches = $state(last?.ring_side_notches ?? 0);
  let farNotches = $state(last?.far_side_notches ?? 0);
  let depth = $state("");
  let part = $state<Part>(last?.preload_part ?? "nothing");
  let spacer = $state("");
  let bearings = $state<Schemas["TrialIn"]["bearings"]>(last?.bearings ?? "final");
  let offset = $state("");
  let final = $state(false);
  let note = $state("");
  const PARTS = $derived<{ value: Part; word: string }[]>(
    {
      crush_sleeve: [{ value: "sleeve", word: "Crush sleeve" } as const],
      spacer: [{ value: "spacer", word: "Solid spacer and shims" } as const],
      outer_shims: [{ value: "outer_shims", word: "Shims under the outer bearing" } as const],
    }[bench.preload_method],
  );
  // each stack as it lay, to be typed over: what did not change need not be typed again
  untrack(() => {
    if (last?.ring_side) ringSide = typedStack(last.ring_side);
    if (last?.far_side) farSide = typedStack(last.far_side);
    if (last?.spacer) spacer = typedStack(last.spacer);
  });

  function begin(event: SubmitEvent) {
    event.preventDefault();
    const rest: TrialTyped = {
      preload_part: part,
      bearings,
      is_final: final,
      note,
      ...(depth.trim() === "" ? {} : { depth }),
      ...(bearings === "set_up" && offset.trim() !== "" ? { bearing_offset: offset } : {}),
      ...(spacer.trim() === "" || part === "nothing" || part === "sleeve" ? {} : { spacer }),
    };
    onbegin(
      notches
        ? { ring_side_notches: ringNotches, far_side_notches: farNotches, ...rest }
        : { ring_side: ringSide, far_side: farSide, ...rest },
    );
  }
</script>

<form class="grid max-w-xl gap-4" onsubmit={begin}>
  <p>
    Measure each shim and type the stack in its order: <strong>0.50 mm + 0.34 mm</strong>, or
    <strong>none</strong>. The unit when none is typed is {UNIT_NAMES[unit]}.
  </p>
  <TypedField
    label={`Depth shim, ${bench.shim_place_label.toLowerCase()}`}
    hint={last?.depth_shim_mm != null
      ? `${shim(last.depth_shim_mm, unit)} was in. Leave empty if it is unchanged.`
      : bench.shim_place === "under_cartridge_flange"
        ? "On this axle a thicker shim moves the pinion away from the ring gear."
        : "On this axle a thicker shim moves the pinion toward the ring gear."}
    bind:value={depth}
    required={last === null}
    long
  />
  {#if notches}
    <p>
      Adjusters are counted in whole notches from the first trial; + is inward.
      {last === null ? "The first trial is 0 and 0." : ""}
    </p>
    <div class="grid grid-cols-2 gap-3">
      <Field label={`${sides.ring}, notches`}
        ><input class="input w-full" type="number" step="1" required bind:value={ringNotches} /></Field
      >
      <Field label={`${sides.far}, notches`}
        ><input class="input w-full" type="number" step="1" required bind:value={farNotches} /></Field
      >
    </div>
  {:else}
    <div class="grid gap-3 sm:grid-cols-2">
      <TypedField label={sides.ring} hint="Behind the ring gear's back" bind:value={ringSide} required long />
      <TypedField label={sides.far} hint="The tooth side" bind:value={farSide} required long />
    </div>
  {/if}
  <div class="grid gap-3 sm:grid-cols-2">
    <Field label="Pinion preload set by">
      <select class="select w-full" bind:value={part}>
        <option value="nothing">Nothing yet, by hand</option>
        {#each PARTS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
      </select>
    </Field>
    <Field label="Bearings">
      <select class="select w-full" bind:value={bearings}>
        <option value="final">Final bearings</option>
        <option value="set_up">Set-up bearings</option>
      </select>
    </Field>
  </div>
  {#if part === "spacer" || part === "outer_shims"}
    <TypedField label="Preload stack" bind:value={spacer} long />
  {/if}
  {#if bearings === "set_up" || (last?.bearings === "set_up" && bearings === "final")}
    <div class="border-base-content grid gap-2 border-l-4 pl-3">
      <p>
        {#if bench.bearing_offset_mm === null}
          The height difference between the final bearings and the set-up bearings has not been measured.
          Measure both, loaded and turned. It is added to the depth shim at the final assembly.
        {:else}
          The final bearings differ by {signed(bench.bearing_offset_mm, unit)} from the set-up bearings. They move
          the pinion
          {bench.bearing_offset_mm >= 0 ? "deeper" : "shallower"} by that much. The depth shim makes up for it at
          the final assembly.
        {/if}
        {#if last?.bearings === "set_up" && bearings === "final" && bench.depth_with_final_bearings_mm !== null}
          For this position now: <strong>{shim(bench.depth_with_final_bearings_mm, unit)}</strong>.
        {/if}
      </p>
      {#if bearings === "set_up"}
        <TypedField label={`Final less set-up bearing, ${UNIT_NAMES[unit]}`} bind:value={offset} />
      {/if}
    </div>
  {/if}
  {#if last !== null}
    <label class="min-h-touch flex items-center gap-3">
      <input class="checkbox" type="checkbox" bind:checked={final} />
      <span>This is the final assembly: seal, new pinion nut, everything</span>
    </label>
  {/if}
  <TypedField label="Note" bind:value={note} long />
  <button class={["btn justify-self-start", last === null ? "btn-primary" : "btn-neutral"]} disabled={busy}
    >Start trial {(last?.number ?? 0) + 1}</button
  >
</form>
