<script lang="ts">
  import { getSession } from "../lib/context";
  import KeepForm from "../lib/KeepForm.svelte";
  import KeptList from "../lib/KeptList.svelte";
  import Notice from "../lib/Notice.svelte";
  import Tabs from "../lib/Tabs.svelte";
  import WhileLost from "../lib/WhileLost.svelte";
  import { unitsFor } from "../lib/units";
  import { route } from "../routes";
  import Checks from "./Checks.svelte";
  import FeltPanel from "./FeltPanel.svelte";
  import { NoiseFinder } from "./finder.svelte";
  import RecordedPanel from "./RecordedPanel.svelte";
  import Vehicle from "./Vehicle.svelte";

  const session = getSession();
  const on = new NoiseFinder(route.getParams("/jobs/:id/work/:work/noise").work, localStorage);
  void on.load();
  $effect(() => () => on.stop());
  const desk = $derived(on.desk);
  const unit = $derived(session.unit);
  const units = $derived(unitsFor(unit));
  const open = $derived(desk?.signed_off === false);
  type Tab = "felt" | "recorded";
  let tab = $state<Tab>("felt");
  const tabs = [
    { key: "felt" as const, word: "Felt" },
    { key: "recorded" as const, word: "Recorded" },
  ];
</script>

<svelte:head
  ><title>{desk ? `Noise finder, job ${desk.job_number}` : "Noise finder"} · Amber Pinion</title></svelte:head
>
<WhileLost lost={on.lost} again={() => on.again()} />
{#if desk && on.felt}
  {@const felt = on.felt}
  <div class="mb-3 flex flex-wrap items-baseline gap-x-4">
    <h1>Noise finder</h1>
    <p>
      <a href={`/jobs/${desk.job_id}/work/${desk.work_id}`}>Job {desk.job_number}, {desk.vehicle}</a>
      <span class="quiet">{desk.complaint}</span>
    </p>
  </div>
  <div class="grid grid-cols-[minmax(0,1fr)] items-start gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_20rem]">
    <div class="min-w-0">
      <Tabs label="Source" panel="noise-panel" {tabs} {tab} onpick={(picked) => (tab = picked)} />
      <Notice text={on.wrong ?? (on.lost ? "The connection is lost; what you typed is kept." : null)} />
      <div id="noise-panel" role="tabpanel" aria-labelledby={`tab-${tab}`} tabindex="-1">
        {#if tab === "felt"}
          <FeltPanel {on} {felt} speed={units.speed} />
        {:else}
          <RecordedPanel {on} {desk} speed={units.speed} may={(session.me?.may.record ?? false) && open} />
        {/if}
      </div>
    </div>
    <aside class="grid grid-cols-[minmax(0,1fr)] gap-6 lg:row-span-2">
      {#if tab === "felt" && on.answer}
        <Checks
          checks={on.answer.next_checks}
          reason={on.answer.reason}
          onoutcome={(code, result) => on.outcome(code, result)}
        />
      {:else if tab === "recorded" && on.recorded}
        <Checks checks={on.recorded.next_checks} reason={on.recorded.reason} />
      {/if}
      <Vehicle {on} {felt} />
    </aside>
    <section aria-labelledby="kept" class="rule-top min-w-0 pt-3 lg:col-start-1">
      <KeptList
        results={desk.findings}
        address="/api/v1/noise-findings"
        kind={(one) => (one.kind === "felt" ? "felt" : "recorded")}
      >
        {#snippet beside(one)}<span>{one.first}</span>{/snippet}
        {#if (session.me?.may.edit_job ?? false) && open}
          <KeepForm
            disabled={on.busy || (tab === "felt" ? on.answer === null : on.recorded === null)}
            onkeep={(title) => on.keep(title, tab)}
          />
        {/if}
      </KeptList>
    </section>
  </div>
{:else}
  <Notice text={on.wrong ?? (on.lost ? "The connection is lost; the finder shows when it is back." : null)} />
{/if}
