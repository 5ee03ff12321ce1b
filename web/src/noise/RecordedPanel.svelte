<script lang="ts">
  import type { Schemas } from "../api/client";
  import FileLink from "../lib/FileLink.svelte";
  import Notice from "../lib/Notice.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import { when } from "../lib/quantity";
  import { save, svgFile } from "../lib/svg-file";
  import type { Unit } from "../lib/units";
  import type { NoiseFinder } from "./finder.svelte";
  import NewRecording from "./NewRecording.svelte";
  import OrderChart from "./OrderChart.svelte";
  import SpectrumChart from "./SpectrumChart.svelte";

  interface Props {
    on: NoiseFinder;
    desk: Schemas["NoiseDeskOut"];
    speed: Unit;
    may: boolean;
  }
  let { on, desk, speed, may }: Props = $props();
  let wrong = $state<string | null>(null);
  let drawings = $state<HTMLElement | null>(null);
  const recording = $derived(on.recording);
  const answer = $derived(on.recorded);
  const USUAL = ["tyre_1x", "prop_1x", "prop_2x", "engine_1x", "engine_firing"];
  let hidden = $state<string[]>([]);
  let added = $state<string[]>([]);
  const shown = $derived.by(() => {
    const likely = (answer?.sources ?? []).slice(0, 4).map((one) => one.name);
    const all = new Set([...USUAL, ...likely, ...added]);
    return (answer?.lines ?? [])
      .map((one) => one.name)
      .filter((name) => all.has(name) && !hidden.includes(name));
  });
  const tidy = (name: string) => name.replaceAll("_", " ");
  const STATE = {
    queued: "waiting to be read",
    reading: "being read",
    done: "read",
    failed: "cannot be read",
  };
  const WORD: Record<string, string> = { likely: "Likely", possible: "Possible", unlikely: "Unlikely" };
  const error = $derived(answer ? Math.round((answer.speed_scale - 1) * 1000) / 10 : 0);

  function flip(name: string, visible: boolean) {
    hidden = visible ? hidden.filter((one) => one !== name) : [...hidden, name];
    if (visible) added = [...added, name];
  }
  function exportSvg() {
    for (const one of Array.from(drawings?.querySelectorAll<SVGSVGElement>("svg[data-drawing]") ?? []))
      save(svgFile(one), `noise-${desk.job_number}-${one.dataset.drawing ?? "chart"}.svg`);
  }
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-5">
  {#if may}
    <NewRecording {on} {desk} {speed} ontold={(text) => (wrong = text)} />
  {/if}
  <Notice text={wrong} />
  {#if desk.recordings.length > 0}
    <section aria-labelledby="recordings">
      <h2 id="recordings">Recordings</h2>
      <ul class="flex flex-wrap gap-2">
        {#each desk.recordings as one (one.id)}
          <li>
            <button
              class={[
                "btn btn-plain h-auto py-1 text-left",
                one.id === on.picked && "border-base-content border-4!",
              ]}
              aria-pressed={one.id === on.picked}
              onclick={() => on.pick(one.id)}
            >
              <span
                >{one.name}
                <span class="quiet block text-sm font-normal"
                  >{(one.size_bytes / 1e6).toFixed(1)} MB, {when(one.at)}, {STATE[one.state]}</span
                ></span
              >
            </button>
          </li>
        {/each}
      </ul>
    </section>
  {/if}
  {#if recording && (recording.state === "queued" || recording.state === "reading")}
    <div role="status">
      <p class="figure text-xl">{recording.name} is {STATE[recording.state]}</p>
      <progress
        class="progress progress-neutral w-full max-w-xl"
        max="1"
        value={recording.share_read}
        aria-label="How far it is read"
      ></progress>
    </div>
  {:else if recording?.state === "failed"}
    <Notice text={`${recording.name}: ${recording.error}`} />
    {#if may}
      <button
        class="btn btn-plain self-start justify-self-start"
        onclick={async () => (wrong = await on.readAgain(recording.id))}>Read again</button
      >
    {/if}
  {:else if recording && answer}
    <ul class="quiet text-sm">
      {#each recording.notes as note (note)}<li>{note}</li>{/each}
    </ul>
    <div class="flex flex-wrap items-end gap-4">
      <div class="w-40">
        <NumberField
          label="Gear ratio of the recording"
          hint="empty: no engine lines"
          value={on.gear_ratio}
          digits={3}
          optional
          ontyped={(value) => {
            on.gear_ratio = value;
            void on.hold();
          }}
        />
      </div>
      <details class="grow">
        <summary class="min-h-touch cursor-pointer py-2 font-semibold">Lines shown</summary>
        <div class="flex flex-wrap gap-x-4">
          {#each answer.lines as one (one.name)}
            <label class="min-h-touch flex items-center gap-2"
              ><input
                class="checkbox"
                type="checkbox"
                checked={shown.includes(one.name)}
                onchange={(event) => flip(one.name, event.currentTarget.checked)}
              />
              {tidy(one.name)}</label
            >
          {/each}
        </div>
      </details>
      <button class="btn btn-plain btn-sm" onclick={exportSvg}>Download charts (SVG)</button>
      <FileLink class="btn btn-plain btn-sm" href={`/api/v1/recordings/${recording.id}/spectrum.csv`}
        >Download spectrum (CSV)</FileLink
      >
    </div>
    <div bind:this={drawings} class="grid gap-6">
      {#if answer.chart.cells.length > 1}<figure>
          <figcaption class="label-text">
            Darker is stronger. What turns with the wheels follows a line
          </figcaption>
          <OrderChart {answer} {shown} {speed} />
        </figure>{/if}
      <figure>
        <figcaption class="label-text">
          Spectrum{answer.chart.cells.length > 1 ? ", whole run scaled to one speed" : ""}
        </figcaption>
        <SpectrumChart {answer} {shown} {speed} />
      </figure>
    </div>
    <section aria-labelledby="sources">
      <h2 id="sources">Possible causes</h2>
      {#if Math.abs(error) >= 0.5}
        <p>
          Everything fits if the vehicle is {Math.abs(error).toFixed(1)} % {error > 0 ? "faster" : "slower"} than
          the speed entered.
        </p>
      {/if}
      <ol>
        {#each answer.sources as one, index (one.name)}
          <li class="border-line grid grid-cols-[5.5rem_minmax(0,1fr)] gap-x-3 border-t py-2">
            <span
              ><span class={["figure block", index === 0 ? "text-xl" : "text-lg"]}
                >{WORD[one.word] ?? one.word}</span
              >
              <span class="quiet text-sm">{Math.round(100 * one.share)} % of the peaks</span></span
            >
            <span
              ><strong>{one.words}</strong>
              <span class="block">{one.reason}</span></span
            >
          </li>
        {/each}
      </ol>
      {#if answer.unknown > 0.1}<p>
          {Math.round(100 * answer.unknown)} % of the peaks fit none of these.
        </p>{/if}
      <p class="quiet text-sm">
        The largest peak is not always the fault that is felt, and its height says little about how bad the
        fault is.
      </p>
    </section>
  {:else if desk.recordings.length === 0}
    <p class="max-w-prose">
      Nothing recorded yet. A passenger, never the driver, lays the phone flat on the floor and starts the
      logger. Then drive slowly up through the speed at which it vibrates.
    </p>
  {/if}
</div>
