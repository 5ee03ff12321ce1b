<script lang="ts">
  import type { Verdict } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import { save, svgFile } from "../lib/svg-file";
  import Tabs from "../lib/Tabs.svelte";
  import WhileLost from "../lib/WhileLost.svelte";
  import { unitsFor } from "../lib/units";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { route } from "../routes";
  import { DrivelineDesk } from "./desk.svelte";
  import { asksFor, type Ask } from "./asks";
  import { worst, type View } from "./drawing";
  import Drawing from "./Drawing.svelte";
  import ForkAdvice from "./ForkAdvice.svelte";
  import Yokes from "./Yokes.svelte";
  import JointsPanel from "./JointsPanel.svelte";
  import Kept from "./Kept.svelte";
  import Limits from "./Limits.svelte";
  import Measured from "./Measured.svelte";
  import MemberStrip from "./MemberStrip.svelte";
  import Remedies from "./Remedies.svelte";
  import Ripple from "./Ripple.svelte";
  import TravelPanel from "./TravelPanel.svelte";
  import TubePanel from "./TubePanel.svelte";

  const session = getSession();
  const on = new DrivelineDesk(route.getParams("/jobs/:id/work/:work/driveline").work, localStorage);
  void on.load();
  $effect(() => () => on.stop());
  const desk = $derived(on.desk);
  const unit = $derived(session.unit);
  const units = $derived(unitsFor(unit));
  const open = $derived(desk?.signed_off === false);
  type Tab = "angles" | "remedy" | "travel" | "tube" | "joints";
  let tab = $state<Tab>("angles");
  const answer = $derived(on.answer);
  const setting = $derived(answer?.tried ?? answer?.now ?? null);
  const standing = $derived(setting ? worst(setting.analysed.limits) : null);
  const tubeState = $derived<Verdict | null>(
    answer?.tubes.some((one) => one.verdict === "out") ? "out" : null,
  );
  const tabs = $derived([
    { key: "angles" as const, word: "Angles", mark: standing },
    { key: "remedy" as const, word: "Remedy" },
    { key: "travel" as const, word: "Travel and length", mark: setting?.slip?.verdict ?? null },
    { key: "tube" as const, word: "Tube", mark: tubeState },
    { key: "joints" as const, word: "Joints" },
  ]);
  const outs = $derived(setting?.analysed.limits.filter((one) => one.verdict === "out") ?? []);
  const said = $derived.by(() => {
    if (outs.length === 0) return standing === "edge" ? "In, close to a limit" : "All angles are in";
    const more = outs.length > 1 ? `, and ${outs.length - 1} more` : "";
    return `${outs[0]?.what ?? ""}: out${more}`;
  });
  const size = $derived({ ...units.size, digits: units.size.name === "in" ? 2 : 0 });
  const asks = $derived(on.inputs ? asksFor(on.inputs.readings) : []);
  let picked = $state("");
  const ask = $derived(asks.find((one) => one.key === picked) ?? asks[0] ?? null);
  let strip = $state<ReturnType<typeof MemberStrip> | null>(null);
  /** The members as one view asks for them: slopes from the side, offsets from above. */
  function membersIn(view: View) {
    const kind = view === "side" ? "slope" : "offset";
    return asks
      .filter((one) => one.kind === kind)
      .map((one) => ({
        member: one.member,
        label: `${one.label}: edit`,
        picked: one.member === ask?.member && ask.view === view,
      }));
  }
  function pickMember(member: number, view: View) {
    const found = asks.find((one) => one.member === member && one.view === view);
    if (found) pick(found);
  }
  function pick(one: Ask) {
    picked = one.key;
    void strip?.focus();
  }
  const clocks = $derived((answer?.tried && on.inputs?.tried?.clock_deg) || on.clocks);
  let drawings = $state<HTMLElement | null>(null);

  function exportSvg() {
    for (const one of Array.from(drawings?.querySelectorAll<SVGSVGElement>("svg[data-drawing]") ?? []))
      save(svgFile(one), `driveline-${desk?.job_number ?? ""}-${one.dataset.drawing ?? "view"}.svg`);
  }
</script>

<svelte:head
  ><title>{desk ? `Driveline desk, job ${desk.job_number}` : "Driveline desk"} · Amber Pinion</title
  ></svelte:head
>
<WhileLost lost={on.lost} again={() => on.again()} />
{#if desk && on.inputs}
  {@const inputs = on.inputs}
  <div class="mb-3 flex flex-wrap items-baseline gap-x-4">
    <h1>Driveline desk</h1>
    <p>
      <a href={`/jobs/${desk.job_id}/work/${desk.work_id}`}>Job {desk.job_number}, {desk.vehicle}</a>
      <span class="quiet">{desk.complaint}</span>
    </p>
  </div>
  <div
    class="grid grid-cols-[minmax(0,1fr)] items-start gap-x-8 gap-y-4 lg:grid-cols-[22rem_minmax(0,1fr)] lg:grid-rows-[auto_1fr]"
  >
    <div class="bg-base-100 sticky top-0 z-10 min-w-0 max-lg:-mx-3 max-lg:px-3 lg:static lg:col-start-2">
      <Notice text={on.lost ? "The connection is lost; what you typed is kept." : null} />
      {#if answer && setting && answer.read}
        <div class="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1">
          <p class="figure flex items-center gap-2 text-xl sm:text-2xl" class:opacity-50={on.wrong !== null}>
            <VerdictMark verdict={standing ?? "unknown"} size={28} />
            {said}
          </p>
          {#if answer.tried}<span class="sample">with the remedy; dashed: as it is</span>{/if}
          {#if on.untouched}<span class="sample">Sample figures</span>{/if}
          <button class="btn btn-plain btn-sm ml-auto max-sm:hidden" onclick={exportSvg}
            >Download drawings (SVG)</button
          >
          {#if ask}<button
              class="btn btn-plain btn-sm ml-auto lg:hidden"
              onclick={() => pickMember(ask.member, ask.view === "side" ? "top" : "side")}
              >{ask.view === "side" ? "Top view" : "Side view"}</button
            >{/if}
        </div>
        <div bind:this={drawings} class:opacity-50={on.wrong !== null}>
          {#each ["side", "top"] as const as view (view)}
            <div class={[view !== ask?.view && "max-lg:hidden"]}>
              <Drawing
                {view}
                {setting}
                before={answer.tried ? answer.now : null}
                kinds={inputs.readings.joints ?? []}
                tube_mm={inputs.tube?.tube.outer_mm ?? 60}
                axle_mm={answer.read.vehicle.axle_centre_mm}
                ondrag={(joint, place) => on.drag(joint, place)}
                members={membersIn(view)}
                onmember={(member) => pickMember(member, view)}
              />
            </div>
          {/each}
        </div>
      {/if}
      {#if ask}
        <MemberStrip
          bind:this={strip}
          {on}
          {inputs}
          {asks}
          {ask}
          {size}
          onpick={(one) => (picked = one.key)}
        />
      {/if}
      <Notice text={on.wrong !== null && !on.lost ? on.wrong : null} />
    </div>
    <div class="min-w-0 lg:col-start-1 lg:row-span-2 lg:row-start-1">
      {#if ask}<Measured {on} {inputs} {units} {asks} {ask} {size} onpick={pick} />{/if}
    </div>
    <div class="min-w-0 lg:col-start-2">
      {#if answer && setting && answer.read}
        {#each answer.read.notes as note (note)}<p class="quiet text-sm">{note}</p>{/each}
        <div class="mt-4">
          <Tabs label="Views" panel="driveline-panel" {tabs} {tab} onpick={(picked) => (tab = picked)} />
          <div id="driveline-panel" role="tabpanel" aria-labelledby={`tab-${tab}`} tabindex="-1">
            {#if tab === "angles"}
              <Limits limits={answer.now.analysed.limits} tried={answer.tried?.analysed.limits ?? null} />
              <div class="mt-4 grid gap-6 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
                <figure>
                  <figcaption class="label-text">
                    Speed over one turn: the pinion runs ±{setting.analysed.uneven_pct.toFixed(2)} % uneven
                  </figcaption>
                  <Ripple
                    turn={setting.analysed.turn}
                    before={answer.tried ? answer.now.analysed.turn : null}
                    uneven={setting.analysed.uneven_pct}
                  />
                </figure>
                <figure>
                  <figcaption class="label-text">Phasing</figcaption>
                  <Yokes analysed={setting.analysed} {clocks} />
                </figure>
              </div>
              {#each setting.analysed.clocking as one, index (index)}
                <ForkAdvice shaft={index + 1} clocking={one} />
              {/each}
            {:else if tab === "remedy"}
              <Remedies {on} {inputs} {answer} />
            {:else if tab === "travel"}
              <TravelPanel {on} {inputs} {answer} {units} />
            {:else if tab === "tube"}
              <TubePanel {on} {inputs} {answer} {units} />
            {:else}
              <JointsPanel
                {on}
                joints={inputs.readings.shafts.length + 1}
                may={(session.me?.may.record ?? false) && open}
              />
            {/if}
          </div>
        </div>
      {/if}
      <Kept {on} {desk} may={(session.me?.may.edit_job ?? false) && open} />
    </div>
  </div>
{:else}
  <Notice text={on.wrong ?? (on.lost ? "The connection is lost; the desk shows when it is back." : null)} />
{/if}
