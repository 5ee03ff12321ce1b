<script lang="ts">
  import type { Schemas } from "../api/client";
  import NumberField from "../lib/NumberField.svelte";
  import type { Unit } from "../lib/units";
  import type { NoiseFinder } from "./finder.svelte";

  interface Props {
    on: NoiseFinder;
    desk: Schemas["NoiseDeskOut"];
    speed: Unit;
    /** told null when it was stored, else the sentence */
    ontold: (wrong: string | null) => void;
  }
  let { on, desk, speed, ontold }: Props = $props();
  let from_kmh = $state(60);
  let to_kmh = $state(110);
  const tidy = (name: string) => name.replaceAll("_", " ");

  async function send(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    if (file) ontold(await on.send(file, from_kmh, to_kmh));
    input.value = "";
  }
</script>

<details open={desk.recordings.length === 0}>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold">Add a recording</summary>
  <div class="grid gap-x-8 gap-y-4 md:grid-cols-2">
    <fieldset class="grid content-start gap-2">
      <legend class="figure text-lg">Upload recording</legend>
      <p>
        A CSV of time and acceleration, as phone loggers write it, up to 50 MB. Lay the phone flat on the
        floor and log 100 samples a second or more.
      </p>
      <div class="grid grid-cols-2 gap-2">
        <NumberField
          label="Speed from"
          unit={speed}
          value={from_kmh}
          ontyped={(value) => value && (from_kmh = value)}
        />
        <NumberField
          label="to"
          unit={speed}
          value={to_kmh}
          hint="the same: a steady drive"
          ontyped={(value) => value && (to_kmh = value)}
        />
      </div>
      <label class="grid gap-1"
        ><span class="label-text">File</span><input
          class="file-input min-h-touch w-full"
          type="file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          disabled={on.busy}
          onchange={(event) => void send(event)}
        /></label
      >
      <p class="quiet text-sm">A road speed in the file is used instead of what you enter here.</p>
    </fieldset>
    {#if on.run}
      {@const run = on.run}
      <fieldset class="grid content-start gap-2">
        <legend class="figure text-lg">Simulated recorder</legend>
        <div class="grid grid-cols-2 gap-x-3">
          {#each desk.faults as fault (fault)}
            <label class="min-h-touch flex items-center gap-2"
              ><input
                class="checkbox"
                type="checkbox"
                checked={run.faults.includes(fault)}
                onchange={(event) => {
                  const others = run.faults.filter((one) => one !== fault);
                  run.faults = event.currentTarget.checked ? [...others, fault] : others;
                }}
              />
              {tidy(fault)}</label
            >
          {/each}
        </div>
        <div class="grid grid-cols-2 gap-2">
          <NumberField
            label="Speed from"
            unit={speed}
            value={run.from_kmh}
            ontyped={(value) => value && (run.from_kmh = value)}
          />
          <NumberField
            label="to"
            unit={speed}
            value={run.to_kmh}
            ontyped={(value) => value && (run.to_kmh = value)}
          />
          <NumberField
            label="Gear ratio"
            digits={3}
            value={run.gear_ratio}
            ontyped={(value) => value && (run.gear_ratio = value)}
          />
          <NumberField
            label="Samples per second"
            digits={0}
            value={run.rate_hz}
            ontyped={(value) => value && (run.rate_hz = value)}
          />
        </div>
        <button
          class="btn btn-plain"
          disabled={on.busy || run.faults.length === 0}
          onclick={async () => {
            ontold(await on.simulate());
          }}>Start recording</button
        >
      </fieldset>
    {/if}
  </div>
</details>
