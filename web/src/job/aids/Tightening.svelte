<script lang="ts">
  import { client, type Schemas } from "../../api/client";
  import NumberField from "../../lib/NumberField.svelte";
  import { WorkedOut } from "../../lib/worked-out.svelte";
  import { torqueSetting, type TorqueUnit } from "../../lib/quantity";

  interface Props {
    fastener: Schemas["StepFastenerOut"];
    unit: TorqueUnit;
  }
  let { fastener, unit }: Props = $props();

  const flags = $derived(
    [
      fastener.thread,
      fastener.stages_nm.length > 0 ? (fastener.oiled ? "thread oiled" : "thread dry") : "",
      fastener.locked_by,
    ].filter(Boolean),
  );
  let wrench = $state<number | null>(null);
  let adapter = $state<number | null>(null);
  let angle = $state<number | null>(null);

  const plan = new WorkedOut(
    () => {
      const target = fastener.torque_nm;
      if (wrench === null || adapter === null || target === null) return null;
      return {
        count: fastener.count,
        layout: fastener.layout,
        target_nm: target,
        stages: fastener.stages_nm.map((one) => one / target),
        wrench_mm: wrench,
        adapter_mm: adapter,
        adapter_angle_deg: angle ?? 0,
      };
    },
    (body) => client.POST("/api/v1/compute/torque.plan", { body }),
  );
  const settings = $derived((plan.value?.stages ?? []).map((one) => one.setting_nm ?? one.nm));
</script>

<div class="min-w-64">
  <p>
    <strong>{fastener.label}: {fastener.count}.</strong>
    {flags.join(", ")}
    {#if fastener.is_sample}<span class="sample ml-1">Sample</span>{/if}
  </p>
  {#if fastener.left_hand}<p><strong>Left-hand thread: it tightens counterclockwise.</strong></p>{/if}
  {#if fastener.one_time_use}<p><strong>New ones every time.</strong></p>{/if}
  {#if fastener.stages_nm.length === 0}
    <p class="quiet">The sheet gives no torque: take it from the maker's manual.</p>
  {:else}
    <table class="mt-2">
      <caption class="sr-only">Stages</caption>
      <thead
        ><tr class="quiet text-left text-sm"
          ><th scope="col" class="pr-4 font-normal">Stage</th><th scope="col" class="pr-4 font-normal"
            >At the bolt</th
          >{#if settings.length > 0}<th scope="col" class="font-normal">Set the wrench to</th>{/if}</tr
        ></thead
      >
      <tbody>
        {#each fastener.stages_nm as nm, index (index)}
          <tr class="figure text-xl"
            ><th scope="row" class="pr-4 text-left font-normal">{index + 1}</th><td class="pr-4"
              >{torqueSetting(nm, unit)}</td
            >{#if settings[index] !== undefined}<td>{torqueSetting(settings[index], unit)}</td>{/if}</tr
          >
        {/each}
        {#if fastener.angle_deg !== null}
          <tr class="figure text-xl"
            ><th scope="row" class="pr-4 text-left font-normal">{fastener.stages_nm.length + 1}</th><td
              colspan="2">then turn by {fastener.angle_deg}°</td
            ></tr
          >
        {/if}
      </tbody>
    </table>
    <details class="mt-2">
      <summary class="min-h-touch flex cursor-pointer items-center underline underline-offset-3"
        >With an adapter on the wrench</summary
      >
      <div class="flex flex-wrap gap-3">
        <NumberField label="Grip to square, mm" value={wrench} optional ontyped={(mm) => (wrench = mm)} />
        <NumberField label="Adapter, mm" value={adapter} optional ontyped={(mm) => (adapter = mm)} />
        <NumberField label="Adapter angle, °" value={angle} optional ontyped={(deg) => (angle = deg)} />
      </div>
      {#if plan.wrong}<p class="mt-1">{plan.wrong}</p>{/if}
    </details>
  {/if}
  <p class="quiet mt-1 text-sm">{fastener.source_note} The maker's manual comes first.</p>
</div>
