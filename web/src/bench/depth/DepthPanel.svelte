<script lang="ts">
  import type { Bench, Schemas, Trial } from "../../api/client";
  import Field from "../../lib/Field.svelte";
  import TypedField from "../../lib/TypedField.svelte";
  import Notice from "../../lib/Notice.svelte";
  import { length, shim, signed, when, type LengthUnit } from "../../lib/quantity";
  import type { BenchOnScreen } from "../bench.svelte";
  import FirstShim from "./FirstShim.svelte";
  import ShimPlaceDrawing from "./ShimPlaceDrawing.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    trial: Trial;
    unit: LengthUnit;
    mayRecord: boolean;
  }
  let { on, bench, trial, unit, mayRecord }: Props = $props();
  let tool = $state<Schemas["DepthIn"]["tool"]>("arbor");
  let reading = $state("");
  let bar = $state("");
  let radius = $state("");
  let face = $state("");
  let nominal = $state("");
  let mark = $state("");
  let wrong = $state<string | null>(null);
  const read = $derived(trial.measured_depth);
  const TOOLS = [
    { value: "arbor", word: "Arbor in the bores" },
    { value: "bar", word: "Bar across the axle housing" },
    { value: "face", word: "Machined face" },
  ] as const;

  async function take(event: SubmitEvent) {
    event.preventDefault();
    wrong = await on.takeDepth(trial.id, {
      tool,
      reading,
      bar: tool === "bar" ? bar : "",
      arbor_radius: tool === "arbor" ? radius : "",
      reference_offset: tool === "face" ? face : "",
      nominal,
      mark,
    });
    if (wrong === null) reading = "";
  }
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-8">
  <section aria-labelledby="stands" class="grid gap-x-8 gap-y-3 sm:grid-cols-2">
    <div>
      <h2 id="stands">Where is the depth shim?</h2>
      <p class="figure text-4xl">
        {trial.depth_shim_mm === null ? "not known" : shim(trial.depth_shim_mm, unit)}
      </p>
      <p>{bench.shim_place_label}</p>
      {#if read}
        <p class="mt-3">
          Measured: <strong class="figure text-xl">{length(read.distance_mm, unit)}</strong> from the ring
          gear axis,
          <strong>{signed(read.error_mm, unit)}</strong>
          ({read.error_mm > 0 ? "too shallow" : "too deep"}). {read.by_name}, {when(read.at)}
        </p>
      {:else}
        <p class="quiet mt-3">
          Pinion depth not measured in this trial. It is optional: the contact pattern decides.
        </p>
      {/if}
    </div>
    <ShimPlaceDrawing place={bench.shim_place} />
  </section>
  {#if mayRecord}
    <section aria-labelledby="measured" class="rule-top pt-3">
      <h2 id="measured">Measured pinion depth</h2>
      <p class="max-w-prose">Pinion under preload and seated, bore clean. Lengths in mm, or type the unit.</p>
      <form class="mt-2 grid max-w-3xl gap-3 sm:grid-cols-3" onsubmit={take}>
        <Field label="Measured from"
          ><select class="select w-full" bind:value={tool}
            >{#each TOOLS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}</select
          ></Field
        >
        <TypedField label="Reading" bind:value={reading} required />
        {#if tool === "bar"}
          <TypedField label="Bar height" bind:value={bar} />
        {:else if tool === "arbor"}
          <TypedField
            label="Arbor radius"
            hint="Added; − when read off its far side"
            bind:value={radius}
            signed
          />
        {:else}
          <TypedField label="Face above the ring gear axis" hint="Taken off" bind:value={face} />
        {/if}
        <TypedField
          label="Nominal distance"
          hint={bench.nominal_depth_mm === null
            ? "From the maker's manual"
            : `Leave empty for the sheet's ${bench.nominal_depth_mm.toFixed(2)} mm (sample)`}
          bind:value={nominal}
        />
        <TypedField
          label="Pinion mark"
          hint="+ sits farther from the ring gear axis"
          bind:value={mark}
          signed
        />
        <div class="self-end"><button class="btn btn-neutral" disabled={on.busy}>Record</button></div>
      </form>
      <div class="mt-2"><Notice text={wrong} /></div>
    </section>
  {/if}
  <FirstShim {bench} {unit} />
</div>
