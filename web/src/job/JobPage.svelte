<script lang="ts">
  import type { Station } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import { ratio } from "../lib/quantity";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import StateMark from "../floor/StateMark.svelte";
  import { route } from "../routes";
  import AsFound from "./AsFound.svelte";
  import DrivelineMap from "./DrivelineMap.svelte";
  import { JobOnScreen } from "./job.svelte";
  import JobCard from "./JobCard.svelte";
  import RunSheet from "./RunSheet.svelte";
  import SheetRevision from "./SheetRevision.svelte";
  import StationDialog from "./StationDialog.svelte";
  import Works from "./Works.svelte";

  const session = getSession();
  // going from one piece of work to the next keeps this page: the address says which is in hand
  const on = $derived(new JobOnScreen(route.params.id ?? "", route.params.work ?? null));
  $effect(() => void on.load());
  let picked = $state<Station | null>(null);
  const open = $derived(on.job?.signed_off_at === null);
  /** whether the gear set is counted in this work */
  const counted = $derived(on.work?.steps.some((step) => step.measure === "gear_set") ?? false);
</script>

<svelte:window onfocus={() => void on.load()} />
<svelte:head><title>{on.job ? `Job ${on.job.number}` : "Job"} · Amber Pinion</title></svelte:head>
{#if on.job}
  {@const job = on.job}
  {@const work = on.work}
  {@const below = `/jobs/${job.id}/work/${on.workId}`}
  <div class="mb-3 flex flex-wrap items-start justify-between gap-x-6 gap-y-2">
    <div class="min-w-0">
      <h1><span class="quiet">{job.number}</span> {job.vehicle}</h1>
      <p class="flex flex-wrap items-center gap-x-4">
        <StateMark state={job.state} word={job.state_word} />
        {#if job.waits_for !== "nothing"}<span
            >{job.waits_word}{job.waits_note ? `: ${job.waits_note}` : ""}</span
          >{/if}
      </p>
    </div>
    {#if work}
      <nav
        class="flex flex-wrap gap-2 max-sm:w-full max-sm:flex-nowrap max-sm:overflow-x-auto max-sm:pb-1 max-sm:*:shrink-0"
        aria-label="This work"
      >
        {#if counted}
          <a class="btn btn-plain" href={`${below}/gear-set`}>
            {work.gear_set
              ? `Gear set ${work.gear_set.pinion_teeth}/${work.gear_set.ring_teeth}, ${ratio(work.gear_set.ratio)}`
              : "Gear set"}
          </a>
        {/if}
        {#if work.on_bench}<a class="btn btn-plain" href={`${below}/bench`}>Set-up bench</a>{/if}
        <a class="btn btn-plain" href={`${below}/diff-bench`}>Diff bench</a>
        <a class="btn btn-plain" href={`${below}/parts`}>Parts wall</a>
        <a class="btn btn-plain" href={`${below}/ratios`}>Ratio desk</a>
        <a class="btn btn-plain" href={`${below}/driveline`}>Driveline desk</a>
        <a class="btn btn-plain" href={`${below}/noise`}>Noise finder</a>
        <a class="btn btn-plain" href={`${below}/sheet`}>Build sheet</a>
        {#if job.state === "done" || job.state === "to_sign"}
          <a
            class={["btn", job.state === "done" ? "btn-primary" : "btn-plain"]}
            href={`/jobs/${job.id}/hand-over`}>Hand-over</a
          >
        {/if}
      </nav>
    {/if}
  </div>
  <div class="gap-x-10 max-lg:flex max-lg:flex-col lg:grid lg:grid-cols-[minmax(0,1fr)_21rem]">
    <div class="max-lg:contents">
      <div class="max-lg:order-3 max-lg:mt-6">
        <DrivelineMap
          {job}
          onpick={open && session.me?.may.record ? (station) => (picked = station) : null}
        />
      </div>
      {#if job.match && job.match.verdict !== "in"}
        <p class="mt-3 flex flex-wrap items-center gap-3">
          <VerdictMark verdict={job.match.verdict} size={30} />
          <span>
            {#if job.match.verdict === "out"}<span
                class="figure mr-1 border-2 border-current px-1.5 leading-none">Hold</span
              >{/if}
            <strong>Front and rear:</strong>
            {job.match.text}
            <a href={`${below}/ratios`}>Go to the Ratio desk</a>
          </span>
        </p>
      {/if}
      <Works {on} />
      {#if work?.newer_sheet}<SheetRevision {on} {work} newer={work.newer_sheet} />{/if}
      <div class="mt-4 max-lg:order-2"><RunSheet {on} /></div>
    </div>
    <div class="max-lg:order-4 max-lg:mt-6">
      <JobCard {on} />
      {#if work && work.as_found.length > 0}<AsFound found={work.as_found} />{/if}
    </div>
  </div>
  {#if picked !== null}
    <StationDialog
      station={picked}
      wrong={on.wrong}
      onclose={() => (picked = null)}
      onsave={async (state, note) => {
        if (picked !== null && (await on.setStation(picked, state, note))) picked = null;
      }}
    />
  {/if}
{:else}
  <Notice text={on.wrong} />
{/if}
