<script lang="ts">
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import Tabs from "../lib/Tabs.svelte";
  import WhileLost from "../lib/WhileLost.svelte";
  import { route } from "../routes";
  import BuildForm from "./BuildForm.svelte";
  import Decide from "./Decide.svelte";
  import PartPanel from "./PartPanel.svelte";
  import PartsMap from "./PartsMap.svelte";
  import PutBack from "./PutBack.svelte";
  import QuotePanel from "./QuotePanel.svelte";
  import Scan from "./Scan.svelte";
  import { TABS, type Tab } from "./tabs";
  import TakeOff from "./TakeOff.svelte";
  import ToGet from "./ToGet.svelte";
  import { titled, WallOnScreen } from "./wall.svelte";

  const session = getSession();
  const on = $derived(new WallOnScreen(route.params.work ?? ""));
  $effect(() => void on.load());
  const asked = new URLSearchParams(location.search);
  let tab = $state<Tab>(TABS.find((one) => one.key === asked.get("tab"))?.key ?? "off");
  let picked = $state<string | null>(null);
  let bag = $state("");
  let scanning = $state(false);
  let wantedBag = $state(asked.get("bag"));

  const wall = $derived(on.wall);
  const unit = $derived(session.me?.length_unit ?? "mm");
  const inHand = $derived(picked === null ? null : on.part(picked));
  const off = $derived((wall?.parts ?? []).filter((part) => part.state === "off"));
  const may = $derived(session.me?.may.record === true && wall?.signed === false);

  function go(to: Tab, key: string | null = null) {
    tab = to;
    picked = key;
    on.wrong = null;
    on.refused = null;
    // a look at the address says where one was when the page is loaded again
    history.replaceState(history.state, "", `${location.pathname}?tab=${to}`);
  }
  /** A label leads to the part in its bag; an empty bag is the one for the part in hand. */
  function opened(number: string) {
    scanning = false;
    const found = off.find((part) => part.off?.bag === number);
    if (found) go(tab === "off" || tab === "map" || tab === "decide" ? "back" : tab, found.key);
    else {
      bag = number;
      if (tab !== "off") go("off");
    }
  }
  $effect(() => {
    if (wantedBag === null || wall === null) return;
    const number = wantedBag;
    wantedBag = null;
    opened(number);
  });
</script>

<svelte:window onfocus={() => void on.load()} />
<svelte:head><title>Parts wall · Amber Pinion</title></svelte:head>
<WhileLost lost={on.lost} again={() => on.load()} />
{#if wall}
  <div class="mb-3 flex flex-wrap items-start justify-between gap-x-6 gap-y-1">
    <div class="min-w-0">
      <h1><span class="quiet">{wall.number}</span> Parts wall</h1>
      <p>{wall.vehicle}: {wall.title}</p>
    </div>
    <nav class="flex flex-wrap gap-2" aria-label="This work">
      <a class="btn btn-plain" href={`/jobs/${wall.job_id}/work/${wall.work_id}`}>Job</a>
      <a class="btn btn-plain" href={`/api/v1/work/${wall.work_id}/parts/labels.pdf`} download>Labels</a>
    </nav>
  </div>
  <p class="mb-3 flex flex-wrap gap-x-5">
    <span><strong class="figure text-xl">{off.length + on.heldKeys.length}</strong> off</span>
    <span
      ><strong class="figure text-xl"
        >{wall.parts.filter((part) => part.seen?.decision === "replace" || part.seen?.decision === "repair")
          .length}</strong
      > found bad</span
    >
    <span
      ><strong class="figure text-xl"
        >{wall.needs.filter((need) => ["wanted", "asked", "ordered"].includes(need.state)).length}</strong
      > to get</span
    >
    <span
      ><strong class="figure text-xl">{wall.parts.filter((part) => part.back !== null).length}</strong> on again</span
    >
    {#if wall.signed}<strong>Signed off: nothing more is recorded here.</strong>{/if}
  </p>
  <Tabs label="Parts wall" panel="parts-panel" tabs={TABS} {tab} onpick={(to) => go(to)} />
  <div id="parts-panel" role="tabpanel" aria-labelledby={`tab-${tab}`}>
    <div class="mb-3"><Notice text={on.wrong} /></div>
    {#if tab === "off"}
      {#if may}
        <TakeOff {on} onbuild={() => go("map")} bind:picked bind:bag onscan={() => (scanning = true)} />
      {:else}
        <p class="quiet">
          {wall.signed
            ? "The wall is closed."
            : "Your login reads the wall; a technician or foreman records."}
        </p>
      {/if}
    {:else if tab === "map"}
      <BuildForm {on} />
      <PartsMap {wall} held={on.heldKeys} {picked} onpick={(key) => (picked = key)} />
      {#if inHand}<PartPanel {on} part={inHand} {unit} ongo={go} />{/if}
      <h2 class="mt-5">Still out: {off.length}</h2>
      {#if off.length > 0}
        <ul class="grid gap-x-8 sm:grid-cols-2 lg:grid-cols-3">
          {#each off as part (part.key)}
            <li class="border-line flex items-center gap-2 border-t py-1">
              <span class="grow"
                >{titled(part.name)}{part.off?.bag ? `, bag ${part.off.bag}` : ""}{part.off?.mark
                  ? `, ${part.off.mark}`
                  : ""}</span
              >
              <button type="button" class="btn btn-plain btn-sm" onclick={() => (picked = part.key)}
                >Show<span class="sr-only">: {part.name}</span></button
              >
            </li>
          {/each}
        </ul>
      {/if}
    {:else if tab === "decide"}
      <Decide {on} bind:picked />
    {:else if tab === "get"}
      <ToGet {on} />
    {:else if tab === "back"}
      <PutBack {on} bind:picked onscan={() => (scanning = true)} />
    {:else}
      <QuotePanel {on} may={session.me?.may.edit_job === true && !wall.signed} />
    {/if}
  </div>
  {#if scanning}<Scan onbag={opened} onclose={() => (scanning = false)} />{/if}
{:else}
  <Notice text={on.wrong} />
{/if}
