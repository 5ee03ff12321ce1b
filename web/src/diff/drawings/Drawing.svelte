<script lang="ts">
  import type { Answered, Asked } from "../answers";
  import type { DiffBench } from "../bench.svelte";
  import type { Row, Slot } from "../values";
  import { typedNumber } from "../../lib/typed-number";
  import { barOf } from "../bars";
  import Bearings from "./Bearings.svelte";
  import Bolts from "./Bolts.svelte";
  import CastleNut from "./CastleNut.svelte";
  import ClutchOrder from "./ClutchOrder.svelte";
  import ClutchShims from "./ClutchShims.svelte";
  import EndPlay from "./EndPlay.svelte";
  import Gasket from "./Gasket.svelte";
  import LockerGap from "./LockerGap.svelte";
  import PressFit from "./PressFit.svelte";
  import Rollers from "./Rollers.svelte";
  import Runout from "./Runout.svelte";
  import SealSurface from "./SealSurface.svelte";
  import Section from "./Section.svelte";
  import TubeEnd from "./TubeEnd.svelte";
  import Turning from "./Turning.svelte";
  import WindowBar from "./WindowBar.svelte";

  interface Props {
    on: DiffBench;
    slots: Slot[];
    picked: string;
    onpick: (key: string) => void;
  }
  let { on, slots, picked, onpick }: Props = $props();
  type Name =
    | "clutchpack.order"
    | "clutchpack.shims"
    | "locker.gap"
    | "tube.register"
    | "runout.assess"
    | "bearing.full_complement"
    | "fit.press"
    | "fit.land"
    | "halfshaft.home"
    | "shaft.engagement"
    | "torque.plan"
    | "nut.castle"
    | "bearing.compare"
    | "endplay.shims"
    | "torque.turning"
    | "gasket.template";

  /** Question and answer of a computation, where the tool in hand asks that one; a tool's answer is its computation's own. */
  function given<N extends Name>(name: N): { question: Asked<N>; answer: Answered<N> } | null {
    const { answer, tool } = on;
    if (tool?.computation !== name || answer?.tool !== tool.code || answer.answer === null) return null;
    return {
      question: answer.question as unknown as Asked<N>,
      answer: answer.answer as unknown as Answered<N>,
    };
  }
  const round = $derived({ values: on.values, slots, picked, onpick });
  const none = { question: null, answer: null };
  const there = $derived(on.answer?.tool === on.code && on.answer.answer !== null);
  const bar = $derived(there ? barOf(on.code, on.answer?.question ?? {}, on.answer?.answer ?? {}) : null);
  const order = $derived(given("clutchpack.order"));
  const packs = $derived(given("clutchpack.shims"));
  const gap = $derived(given("locker.gap"));
  const tube = $derived(given("tube.register"));
  const runout = $derived(given("runout.assess"));
  const rollers = $derived(given("bearing.full_complement"));
  const press = $derived(given("fit.press"));
  const land = $derived(given("fit.land"));
  const home = $derived(given("halfshaft.home"));
  const engagement = $derived(given("shaft.engagement"));
  const bolts = $derived(given("torque.plan"));
  const nut = $derived(given("nut.castle"));
  const bearings = $derived(given("bearing.compare"));
  const play = $derived(given("endplay.shims"));
  const turning = $derived(given("torque.turning"));
  const gasket = $derived(given("gasket.template"));
  const typed = $derived(on.values.counted);
  const counted = $derived((typeof typed === "string" ? typedNumber(typed) : null) ?? 0);
</script>

{#if on.code === "tube_end"}<TubeEnd {...tube ?? none} {...round} />
{:else if on.code === "runout"}<Runout {...runout ?? none} {...round} />
{:else if order}<ClutchOrder {...order} />
{:else if packs}<ClutchShims {...packs} />
{:else if gap}<LockerGap {...gap} />
{:else if rollers}<Rollers {...rollers} {counted} oncount={(count) => on.set("counted", String(count))} />
{:else if press}<PressFit {...press} />
{:else if land}<SealSurface {...land} beside={on.answer?.beside ?? {}} />
{:else if home}<Section {home} />
{:else if engagement}<Section {engagement} />
{:else if bolts}<Bolts {...bolts} />
{:else if nut}<CastleNut {...nut} />
{:else if bearings}<Bearings {...bearings} />
{:else if play}<EndPlay {...play} trials={(on.values.trials as Row[] | undefined) ?? []} />
{:else if turning}<Turning {...turning} />
{:else if gasket}<Gasket answer={gasket.answer} />
{:else if bar}<WindowBar {bar} />
{:else}
  <p class="quiet border-line border-y py-6 text-center">The drawing shows once the figures are in.</p>
{/if}
