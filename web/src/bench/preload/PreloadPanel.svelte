<script lang="ts">
  import type { Bench, Trial } from "../../api/client";
  import type { LengthUnit, TorqueUnit } from "../../lib/quantity";
  import type { BenchOnScreen } from "../bench.svelte";
  import RotatingTorque from "./RotatingTorque.svelte";
  import SleeveRun from "./SleeveRun.svelte";
  import SpacerLoop from "./SpacerLoop.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    trial: Trial;
    unit: LengthUnit;
    torqueUnit: TorqueUnit;
    mayRecord: boolean;
  }
  let { on, bench, trial, unit, torqueUnit, mayRecord }: Props = $props();
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-8">
  <RotatingTorque {on} {bench} {trial} {torqueUnit} {mayRecord} />
  {#if bench.preload.sleeve}
    <SleeveRun {on} preload={bench.preload} sleeve={bench.preload.sleeve} {torqueUnit} {mayRecord} />
  {:else if bench.preload.spacer}
    <SpacerLoop {on} {bench} spacer={bench.preload.spacer} {unit} {torqueUnit} {mayRecord} />
  {/if}
</div>
