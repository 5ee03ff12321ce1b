<script lang="ts">
  import { degrees } from "../lib/quantity";
  import type { Reading } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import { route } from "../routes";
  import BasisForm from "./BasisForm.svelte";
  import { BenchOnScreen } from "./bench.svelte";
  import BenchTabs, { TABS, type Tab } from "./BenchTabs.svelte";
  import Conditions from "./Conditions.svelte";
  import DepthPanel from "./depth/DepthPanel.svelte";
  import FirstShim from "./depth/FirstShim.svelte";
  import ShimPlaceDrawing from "./depth/ShimPlaceDrawing.svelte";
  import Dial from "./Dial.svelte";
  import InstrumentCheck from "./InstrumentCheck.svelte";
  import SetupMap from "./map/SetupMap.svelte";
  import NextMove from "./NextMove.svelte";
  import OddsKept from "./OddsKept.svelte";
  import { onDisk } from "./on-disk";
  import { Outbox } from "./outbox";
  import PatternPanel from "./pattern/PatternPanel.svelte";
  import PreloadPanel from "./preload/PreloadPanel.svelte";
  import Readings from "./Readings.svelte";
  import ReadingStrip from "./ReadingStrip.svelte";
  import SetAside from "./SetAside.svelte";
  import TrialForm from "./TrialForm.svelte";
  import Trials from "./Trials.svelte";
  import VerdictPanel from "./VerdictPanel.svelte";

  const session = getSession();
  const workId = route.getParams("/jobs/:id/work/:work/bench").work;
  const on = new BenchOnScreen(workId, new Outbox(workId, onDisk));
  void on.load();
  let striking = $state<Reading | null>(null);
  let tab = $state<Tab>(TABS.find((one) => location.hash === `#${one}`) ?? "backlash");
  let otherOpen = $state(false);
  const bench = $derived(on.bench);
  const mayRecord = $derived((session.me?.may.record ?? false) && bench?.signed_off === false);
  const unit = $derived(session.unit);
  const torqueUnit = $derived(session.me?.torque_unit ?? "nm");
  const withStrip = $derived(mayRecord && tab === "backlash");

  $effect(() => () => on.stop());
  // signed in again after the login ended: what waits goes out
  $effect(() => {
    if (!session.ended) void on.send();
  });

  /** The tab stands in the address, so that a reload or a link keeps it. */
  function pick(next: Tab) {
    tab = next;
    history.replaceState(history.state, "", `#${next}`);
  }
  function other() {
    otherOpen = true;
    requestAnimationFrame(() => document.getElementById("something-else")?.scrollIntoView());
  }
</script>

<!-- somebody else may have read or changed something meanwhile -->
<svelte:window
  onhashchange={() => (tab = TABS.find((one) => location.hash === `#${one}`) ?? tab)}
  ononline={() => void on.load()}
  onfocus={() => void on.load()}
/>
<svelte:head
  ><title>{bench ? `Set-up bench, job ${bench.job_number}` : "Set-up bench"} · Amber Pinion</title
  ></svelte:head
>
{#if bench}
  <div class="mb-3 flex flex-wrap items-baseline gap-x-4">
    <h1>Set-up bench{on.trial ? `, trial ${on.trial.number}` : ""}</h1>
    <p>
      <a href={`/jobs/${bench.job_id}/work/${bench.work_id}`}>Job {bench.job_number}, {bench.vehicle}</a>
      <span class="quiet">
        {bench.axle_label}, {bench.family_name}, carrier held by {bench.carrier_label}{bench.slope
          ? `, ratio ${bench.slope.ratio.toFixed(3)}`
          : ""}
      </span>
    </p>
  </div>
  {#if bench.set_wrong}
    <p class="border-out bg-base-200 mb-3 border-l-4 px-3 py-1.5">
      <strong>The recorded gear set cannot be right.</strong>
      {bench.set_wrong}
      <a href={`/jobs/${bench.job_id}/work/${bench.work_id}/gear-set`}>Identify it again</a>
    </p>
  {/if}
  <SetAside {on} />
  {#if on.trial === null}
    <div class="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <section>
        <h2 class="mb-2">What shims are in now?</h2>
        {#if mayRecord}
          <TrialForm {bench} {unit} busy={on.busy} onbegin={(typed) => void on.begin(typed)} />
        {:else}
          <p>Nothing recorded yet.</p>
        {/if}
        <div class="mt-4"><Notice text={on.wrong} /></div>
      </section>
      <aside class="border-line grid content-start gap-5 border-l-4 pl-4">
        <ShimPlaceDrawing place={bench.shim_place} />
        {#if mayRecord}
          <div>
            <h2 class="mb-1">New or used gear set?</h2>
            {#key bench.start}<BasisForm {on} {bench} {unit} />{/key}
          </div>
        {/if}
      </aside>
      <div class="lg:col-span-2"><FirstShim {bench} {unit} /></div>
    </div>
  {:else}
    {@const trial = on.trial}
    <div class={[withStrip && "mb-60 lg:mb-32"]}>
      {#if !trial.counts}
        <Conditions
          {trial}
          {mayRecord}
          busy={on.busy}
          onconfirm={async () => (on.wrong = await on.confirmConditions(trial.id))}
        />
      {/if}
      <BenchTabs {tab} {trial} onpick={pick} />
      <div
        class="grid grid-cols-[minmax(0,1fr)] items-start gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_23rem]"
      >
        <div id="bench-panel" role="tabpanel" aria-labelledby={`tab-${tab}`} class="min-w-0">
          {#if tab === "backlash"}
            <div
              class="grid grid-cols-[minmax(0,1fr)] items-start gap-x-6 gap-y-4 md:grid-cols-[26rem_minmax(0,1fr)]"
            >
              <Dial
                {bench}
                {trial}
                waiting={on.mine}
                position={mayRecord ? on.position : null}
                next={trial.counts && on.asked === null}
                {unit}
                onpick={mayRecord ? (angle) => (on.picked = angle) : null}
              />
              <div class="grid min-w-0 gap-4">
                <VerdictPanel {bench} {trial} {unit} />
                <InstrumentCheck {on} {bench} {unit} {mayRecord} />
                <Readings {trial} {unit} onstrike={mayRecord ? (reading) => (striking = reading) : null} />
              </div>
            </div>
          {:else if tab === "pattern"}
            <PatternPanel {on} {bench} {trial} {unit} {mayRecord} />
          {:else if tab === "preload"}
            <PreloadPanel {on} {bench} {trial} {unit} {torqueUnit} {mayRecord} />
          {:else if tab === "depth"}
            <DepthPanel {on} {bench} {trial} {unit} {mayRecord} />
          {:else}
            <SetupMap {on} {bench} advice={on.advice} {unit} />
          {/if}
        </div>
        <NextMove {on} {bench} {trial} {unit} {mayRecord} ontab={pick} onother={other} />
      </div>
      <div class="mt-6"><Trials {bench} {unit} /></div>
      {#if !withStrip}<Notice text={on.wrong} />{/if}
      {#if mayRecord}
        <details id="something-else" bind:open={otherOpen}>
          <summary class="min-h-touch cursor-pointer py-2 font-semibold">New trial</summary>
          {#key trial.id}<TrialForm
              {bench}
              {unit}
              busy={on.busy}
              onbegin={async (typed) => {
                if (await on.begin(typed)) otherOpen = false;
              }}
            />{/key}
        </details>
      {/if}
      <OddsKept />
    </div>
    {#if withStrip}<ReadingStrip
        {on}
        {bench}
        {unit}
        next={trial.counts && on.asked === null}
        onstrike={(reading) => (striking = reading)}
      />{/if}
  {/if}
  {#if striking !== null}
    <ReasonDialog
      title={`Strike out ${striking.typed} at ${degrees(striking.angle_deg)}`}
      ask="Why? It stays on the record, struck through."
      wrong={on.wrong}
      onclose={() => (striking = null)}
      onreason={async (reason) => {
        if (striking !== null && (await on.strike(striking, reason))) striking = null;
      }}
    />
  {/if}
{:else}
  <Notice text={on.wrong ?? (on.lost ? "The connection is lost; the bench shows when it is back." : null)} />
{/if}
