<script lang="ts">
  import { untrack } from "svelte";

  import { ask, client, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import KeptList from "../lib/KeptList.svelte";
  import Notice from "../lib/Notice.svelte";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import WhileLost from "../lib/WhileLost.svelte";
  import { VERDICT_WORDS } from "../lib/words";
  import { route } from "../routes";
  import type { Answered } from "./answers";
  import BenchClock from "./BenchClock.svelte";
  import { DiffBench } from "./bench.svelte";
  import Drawing from "./drawings/Drawing.svelte";
  import Fields from "./Fields.svelte";
  import GasketFiles from "./GasketFiles.svelte";
  import Readings from "./Readings.svelte";
  import SaveAnswer from "./SaveAnswer.svelte";
  import Strip from "./Strip.svelte";
  import ToolList from "./ToolList.svelte";
  import Trace from "./Trace.svelte";
  import { belongs, slotsOf, type Values } from "./values";

  const session = getSession();
  const asked = new URLSearchParams(location.search);
  const on = untrack(() => new DiffBench(route.params.work ?? null, localStorage));
  void on.load(asked.get("tool") ?? "");
  $effect(() => () => on.stop());

  let step = $state(asked.get("step") ?? "");
  let pickedKey = $state("");
  let strip = $state<ReturnType<typeof Strip> | null>(null);
  const desk = $derived(on.desk);
  const tool = $derived(on.tool);
  const slots = $derived(tool ? slotsOf(tool, on.values) : []);
  const slot = $derived(slots.find((one) => one.key === pickedKey) ?? slots[0] ?? null);
  const answer = $derived(on.answer?.tool === on.code ? on.answer : null);
  const open = $derived(desk?.signed_off === false && session.me?.may.record === true);
  const back = $derived(desk?.job_id ? `/jobs/${desk.job_id}/work/${desk.work_id}` : "/");
  const fields = $derived(
    (tool?.fields ?? []).filter(
      (field) => belongs(field, on.values) && !slots.some((one) => one.field.name === field.name),
    ),
  );
  const inSection = (...names: Schemas["FieldOut"]["section"][]) =>
    fields.filter((field) => names.includes(field.section));
  const bad = $derived(
    on.code === "clutch_order" && answer?.answer
      ? (answer.answer as unknown as Answered<"clutchpack.order">).problems.flatMap((one) =>
          one.index === null ? [] : [one.index],
        )
      : [],
  );
  /** Slips that belong to no field on the screen, so that none is lost. */
  const loose = $derived(
    (answer?.wrong ?? []).filter(
      (one) =>
        !slots.some((slot) => slot.key === one.field) &&
        !fields.some(
          (field) =>
            field.name === one.field || (field.columns.length > 0 && one.field.startsWith(`${field.name}[`)),
        ),
    ),
  );
  const MEASURED = new Set(["length", "stack"]);
  const gauged = $derived(
    (tool?.fields ?? []).some((field) =>
      field.columns.length > 0
        ? field.columns.some((column) => MEASURED.has(column.kind))
        : MEASURED.has(field.kind),
    ),
  );

  function pickTool(code: string) {
    if (code !== on.code) step = "";
    on.pick(code);
    pickedKey = "";
    history.replaceState(history.state, "", `${location.pathname}?tool=${code}`);
  }
  function pick(key: string) {
    pickedKey = key;
    void strip?.focus();
  }
  const whole = (result_id: string) =>
    ask(client.GET("/api/v1/diff-results/{result_id}", { params: { path: { result_id } } }));
  async function reopen(id: string) {
    const found = await whole(id);
    if (found.kind !== "done") return;
    const { tool, inputs } = found.value;
    on.open(tool, inputs.values as Values, inputs.gauge as string);
    window.scrollTo({ top: 0 });
  }
</script>

<svelte:head><title>{tool ? `${tool.title} · ` : ""}Diff bench · Amber Pinion</title></svelte:head>
<WhileLost lost={on.lost} again={() => (desk ? on.ask() : on.load(asked.get("tool") ?? ""))} />
{#if desk && tool}
  <div class="mb-3 flex flex-wrap items-baseline gap-x-4">
    <h1>Diff bench</h1>
    {#if desk.job_id}
      <p>
        <a href={back}>Job {desk.job_number}, {desk.vehicle}</a>
        <span class="quiet">{desk.title}{desk.sheet ? `, ${desk.sheet}` : ", no sheet"}</span>
        {#if desk.is_sample}<span class="sample ml-1">Sample</span>{/if}
      </p>
    {:else}
      <p class="quiet">
        Without a job: nothing is saved. Open it from a piece of work to use its limits and to save.
      </p>
    {/if}
  </div>
  {#each desk.clocks.filter((one) => one.running || tool.clocks.includes(one.step)) as clock (clock.step)}
    <BenchClock {clock} {back} work={open ? desk.work_id : null} onbegun={() => void on.load(on.code)} />
  {/each}
  <div
    class="grid grid-cols-[minmax(0,1fr)] items-start gap-x-7 gap-y-4 lg:grid-cols-[11.5rem_minmax(0,1fr)]"
  >
    <ToolList tools={desk.tools} code={on.code} onpick={pickTool} />
    <div class="min-w-0">
      <h2>{tool.title}</h2>
      <p class="quiet mb-2">{tool.about}</p>
      {#each tool.cautions as caution (caution)}
        <p class="border-base-content mb-1 border-l-4 pl-3"><strong>Caution:</strong> {caution}</p>
      {/each}
      <div class="mt-2 grid gap-x-8 gap-y-4 xl:grid-cols-[minmax(0,1fr)_21rem]">
        <div class="grid min-w-0 content-start gap-3">
          {#if answer?.answer && answer.verdict}
            <p class="figure flex items-center gap-2 text-xl xl:hidden">
              <VerdictMark verdict={answer.verdict} size={26} />{VERDICT_WORDS[answer.verdict]}
              {#if answer.reasons[0]}<span class="font-sans text-base font-normal">{answer.reasons[0]}</span
                >{/if}
            </p>
          {/if}
          <div class={[answer === null && "stale"]}>
            <Drawing {on} {slots} picked={slot?.key ?? ""} onpick={pick} />
          </div>
          {#if slot}
            <Strip bind:this={strip} {on} {slots} {slot} onpick={(key) => (pickedKey = key)} />
            <Readings {on} {slots} picked={slot.key} onpick={pick} />
          {/if}
          <Fields {on} fields={inSection("readings", "part")} {bad} />
          {#if on.code === "gasket"}<Trace {on} />{/if}
          {#if inSection("limits").length > 0}
            <fieldset>
              <legend class="label-text mb-1">Limits</legend>
              <Fields {on} fields={inSection("limits")} bad={[]} />
            </fieldset>
          {/if}
          {#if inSection("more").length > 0}
            <details>
              <summary class="min-h-touch flex cursor-pointer items-center underline underline-offset-3"
                >More</summary
              >
              <Fields {on} fields={inSection("more")} bad={[]} />
            </details>
          {/if}
        </div>
        <section class="min-w-0" aria-label="Answer" aria-live="polite">
          {#if answer?.answer}
            {#if answer.verdict}
              <p class="figure mb-2 flex items-center gap-3 text-2xl">
                <VerdictMark verdict={answer.verdict} size={34} />{VERDICT_WORDS[answer.verdict]}
              </p>
            {/if}
            <dl class="grid">
              {#each answer.lines as line (line.name)}
                <div
                  class="border-line grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3 border-t py-1"
                >
                  <dt class="quiet">{line.what}</dt>
                  <dd
                    class={[
                      "text-right",
                      line.said.length < 18 ? "figure text-lg whitespace-nowrap" : "col-span-2 text-left!",
                    ]}
                  >
                    {#if line.verdict !== "unknown"}<span class="mr-1 inline-block align-middle"
                        ><VerdictMark verdict={line.verdict} size={16} /><span class="sr-only"
                          >{VERDICT_WORDS[line.verdict]}</span
                        ></span
                      >{/if}{line.said}
                  </dd>
                </div>
              {/each}
            </dl>
            {#each answer.reasons as reason (reason)}<p class="mt-2">{reason}</p>{/each}
          {:else if answer && answer.missing.length > 0}
            <p class="figure text-xl">Still missing</p>
            <ul class="ml-5 list-disc">
              {#each answer.missing as one (one)}<li>{one}</li>{/each}
            </ul>
          {/if}
          {#each loose as one (one.field + one.text)}<p class="text-out mt-2 font-semibold" role="alert">
              {one.text}
            </p>{/each}
          <Notice text={on.wrong} />
          {#if gauged}
            <label class="mt-3 grid gap-1">
              <span class="label-text">Read with</span>
              <select
                class="select w-full"
                value={on.gauge}
                onchange={(event) => on.setGauge(event.currentTarget.value)}
              >
                <option value="">Not said (counts as 0.01 mm)</option>
                {#each desk.gauges as one (one.code)}<option value={one.code}
                    >{one.name}, {one.step_mm} mm</option
                  >{/each}
              </select>
            </label>
          {/if}
          {#if on.code === "gasket" && answer?.answer}<GasketFiles {on} />{/if}
          {#if desk.work_id && open}<SaveAnswer {on} {step} {back} />{/if}
          <button type="button" class="btn btn-plain btn-sm mt-3" onclick={() => on.clear()}
            >Clear this tool</button
          >
          {#if desk.work_id}
            <p class="quiet mt-3 text-sm">
              Slip and shaft length are on the <a href={`${back}/driveline`}>Driveline desk</a>.
            </p>
          {/if}
        </section>
      </div>
      {#if desk.work_id}
        <section class="rule-top mt-6 pt-3" aria-labelledby="kept">
          <KeptList results={desk.results} address="/api/v1/diff-results" kind={(one) => one.tool_title}>
            {#snippet beside(one)}
              {#if one.verdict}<span class="flex items-center gap-1"
                  ><VerdictMark verdict={one.verdict} size={18} />{VERDICT_WORDS[one.verdict]}</span
                >{/if}
            {/snippet}
            {#snippet actions(one)}
              <button class="btn btn-plain btn-sm" onclick={() => void reopen(one.id)}
                >Open in the tool<span class="sr-only">: {one.title}</span></button
              >
            {/snippet}
            {#snippet below(one)}
              <p class="quiet text-sm">{one.lines.map((line) => `${line.what}: ${line.said}`).join("; ")}</p>
            {/snippet}
          </KeptList>
        </section>
      {/if}
    </div>
  </div>
{:else}
  <Notice text={on.wrong ?? (on.lost ? "The connection is lost; the bench shows when it is back." : null)} />
{/if}
