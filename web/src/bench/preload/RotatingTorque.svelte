<script lang="ts">
  import type { Bench, Schemas, Trial } from "../../api/client";
  import Field from "../../lib/Field.svelte";
  import TypedField from "../../lib/TypedField.svelte";
  import Notice from "../../lib/Notice.svelte";
  import { torque, TORQUE_NAMES, torqueWindow, when, type TorqueUnit } from "../../lib/quantity";
  import VerdictMark from "../../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../../lib/words";
  import type { BenchOnScreen } from "../bench.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    trial: Trial;
    torqueUnit: TorqueUnit;
    mayRecord: boolean;
  }
  let { on, bench, trial, torqueUnit, mayRecord }: Props = $props();
  type TorqueIn = Schemas["TorqueIn"];
  let what = $state<TorqueIn["what"]>("pinion");
  let way = $state<"wrench" | "pull">("wrench");
  let typed = $state("");
  let radius = $state("");
  let bearings = $state<TorqueIn["bearings"]>("new");
  let seal = $state<TorqueIn["seal"]>("absent");
  let drag = $state("");
  let wrong = $state<string | null>(null);
  const windows = $derived(bench.preload.windows);
  const read = $derived([
    { name: "Pinion alone", reading: trial.pinion_torque },
    { name: "Total, carrier in", reading: trial.total_torque },
  ]);

  async function take(event: SubmitEvent) {
    event.preventDefault();
    wrong = await on.takeTorque(trial.id, {
      what,
      typed,
      radius: way === "pull" ? radius : "",
      bearings,
      seal,
      seal_drag: seal === "fitted" ? drag : "",
    });
    if (wrong === null) typed = "";
  }
</script>

<section aria-labelledby="rotating">
  <h2 id="rotating">Rotating torque, turned steadily</h2>
  <dl class="mt-1 grid grid-cols-[auto_minmax(0,1fr)] gap-x-5 gap-y-2">
    {#each read as { name, reading } (name)}
      <dt class="pt-1">{name}</dt>
      <dd>
        {#if reading}
          <span class="flex flex-wrap items-center gap-x-3"
            ><VerdictMark verdict={reading.verdict} size={24} />
            <strong class="figure text-2xl">{torque(reading.value_nm, torqueUnit)}</strong>
            {VERDICT_WORDS[reading.verdict]}
            <span class="quiet text-sm"
              >{reading.bearings} bearings, seal {reading.seal}{reading.radius_mm === null
                ? ""
                : `, pulled at ${reading.radius_mm.toFixed(0)} mm`}; typed {reading.typed}; {reading.by_name}, {when(
                reading.at,
              )}</span
            ></span
          >
          {#each reading.reasons as reason (reason.code + reason.text)}<p class="text-sm">
              {reason.text}
            </p>{/each}
        {:else}<span class="quiet">not read in this trial</span>{/if}
      </dd>
    {/each}
    <dt>Windows</dt>
    <dd>
      new bearings {torqueWindow(windows.new, torqueUnit)}; used {torqueWindow(windows.used, torqueUnit)};
      total {torqueWindow(windows.total, torqueUnit)}. Seal drag is {bench.preload.window_seal === "included"
        ? "included"
        : "not included"}.
      <span class="sample">Sample</span>
    </dd>
  </dl>
  {#if mayRecord}
    <form class="mt-3 grid max-w-3xl gap-3 sm:grid-cols-3" onsubmit={take}>
      <Field label="What was turned"
        ><select class="select w-full" bind:value={what}
          ><option value="pinion">Pinion alone</option><option value="total">Everything, carrier in</option
          ></select
        ></Field
      >
      <Field label="Tool"
        ><select class="select w-full" bind:value={way}
          ><option value="wrench">Beam or dial torque wrench</option><option value="pull"
            >Spring balance on a string or lever</option
          ></select
        ></Field
      >
      <Field label="Bearings"
        ><select class="select w-full" bind:value={bearings}
          ><option value="new">New</option><option value="used">Used</option><option value="mixed"
            >One new, one used</option
          ></select
        ></Field
      >
      <TypedField
        label={way === "pull"
          ? "Pull (N, or type the unit: 1.2 kgf, 5 lbf)"
          : `Reading, ${TORQUE_NAMES[torqueUnit]}`}
        bind:value={typed}
        required
      />
      {#if way === "pull"}
        <TypedField
          label="Radius (mm)"
          hint="String: half the flange's diameter"
          bind:value={radius}
          required
        />
      {/if}
      <Field label="Pinion seal"
        ><select class="select w-full" bind:value={seal}
          ><option value="absent">Not fitted</option><option value="fitted">Fitted</option></select
        ></Field
      >
      {#if seal === "fitted"}
        <TypedField label={`Seal drag, ${TORQUE_NAMES[torqueUnit]}, if known`} bind:value={drag} />
      {/if}
      <div class="self-end"><button class="btn btn-neutral" disabled={on.busy}>Record</button></div>
    </form>
    <div class="mt-2"><Notice text={wrong} /></div>
  {/if}
</section>
