<script lang="ts">
  import type { Reading } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import { route } from "../routes";
  import { BenchOnScreen } from "./bench.svelte";
  import Dial from "./Dial.svelte";
  import NextMove from "./NextMove.svelte";
  import { Outbox } from "./outbox";
  import Readings from "./Readings.svelte";
  import ReadingStrip from "./ReadingStrip.svelte";
  import TrialForm from "./TrialForm.svelte";
  import Trials from "./Trials.svelte";
  import VerdictPanel from "./VerdictPanel.svelte";

  const session = getSession();
  const jobId = route.getParams("/jobs/:id/bench").id;
  const on = new BenchOnScreen(jobId, new Outbox(jobId, localStorage));
  void on.load();
  let striking = $state<Reading | null>(null);
  const bench = $derived(on.bench);
  const mayRecord = $derived((session.me?.may.record ?? false) && bench?.signed_off === false);
  const unit = $derived(session.unit);

  $effect(() => () => on.stop());
  // signed in again after the login ended: what waits goes out
  $effect(() => {
    if (!session.ended) void on.send();
  });
</script>

<!-- somebody else may have read or changed something meanwhile -->
<svelte:window ononline={() => void on.send()} onfocus={() => void on.load()} />
<svelte:head
  ><title>{bench ? `Set-up bench, job ${bench.job_number}` : "Set-up bench"} · Amber Pinion</title
  ></svelte:head
>
{#if bench}
  <div class="mb-3 flex flex-wrap items-baseline gap-x-4">
    <h1>Set-up bench</h1>
    <p>
      <a href={`/jobs/${bench.job_id}`}>Job {bench.job_number}, {bench.vehicle}</a>
      <span class="quiet">
        {bench.axle_label}, {bench.family_name}, carrier held by {bench.carrier_label}{bench.slope
          ? `, ratio ${bench.slope.ratio.toFixed(3)}`
          : ""}
      </span>
    </p>
  </div>
  {#if on.trial === null}
    <div class="grid gap-8 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <section>
        <h2 class="mb-2">What stands in the housing?</h2>
        {#if mayRecord}
          <TrialForm {bench} {unit} busy={on.busy} onbegin={(typed) => void on.begin(typed)} />
        {:else}
          <p>Nothing is recorded yet.</p>
        {/if}
        <div class="mt-4"><Notice text={on.wrong} /></div>
      </section>
      <aside class="border-line border-l-4 pl-4">
        <h2 class="mb-1">Before readings count</h2>
        <p>
          No seal and no crush sleeve yet. Caps on their own sides at full torque. No play in pinion or
          carrier. Several turns to seat. Last turn of an adjuster inward.
        </p>
      </aside>
    </div>
  {:else}
    <div
      class={[
        "grid grid-cols-[minmax(0,1fr)] items-start gap-x-10 gap-y-6 lg:grid-cols-[27rem_minmax(0,1fr)]",
        mayRecord && "mb-60 lg:mb-32",
      ]}
    >
      <div class="lg:order-none">
        <h2 class="mb-1">Trial {on.trial.number}</h2>
        <Dial
          {bench}
          trial={on.trial}
          waiting={on.mine}
          position={mayRecord ? on.position : null}
          {unit}
          onpick={mayRecord ? (angle) => (on.picked = angle) : null}
        />
      </div>
      <div class="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-6">
        <VerdictPanel {bench} trial={on.trial} {unit} />
        <NextMove
          {bench}
          {unit}
          {mayRecord}
          busy={on.busy}
          due={on.position === null}
          ondo={(typed) => void on.begin(typed)}
        />
        <Readings trial={on.trial} {unit} onstrike={mayRecord ? (reading) => (striking = reading) : null} />
        {#if mayRecord && on.live.length > 0}
          <details>
            <summary class="min-h-touch cursor-pointer py-2 font-semibold"
              >Something else went into the housing</summary
            >
            {#key on.trial.id}<TrialForm
                {bench}
                {unit}
                busy={on.busy}
                onbegin={(typed) => void on.begin(typed)}
              />{/key}
          </details>
        {/if}
      </div>
      <div class="lg:col-span-2"><Trials {bench} {unit} /></div>
    </div>
    {#if mayRecord}<ReadingStrip {on} {bench} {unit} onstrike={(reading) => (striking = reading)} />{/if}
  {/if}
  {#if striking !== null}
    <ReasonDialog
      title={`Strike out ${striking.typed} at ${striking.angle_deg.toFixed(0)}°`}
      ask="Why? It stays visible, struck through."
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
