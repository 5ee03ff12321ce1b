<script lang="ts">
  import type { Family } from "../api/client";
  import { getSession } from "../lib/context";
  import { ratio, torqueSetting } from "../lib/quantity";

  interface Props {
    family: Family;
  }
  let { family }: Props = $props();
  const session = getSession();
  const isAxle = $derived(family.part === "axle");
  const tightened = (one: Family["fasteners"][number]) =>
    [
      one.torque_nm === null ? "" : torqueSetting(one.torque_nm, session.me?.torque_unit ?? "nm"),
      one.angle_deg === null ? "" : `then ${one.angle_deg}°`,
    ]
      .filter(Boolean)
      .join(" ");
  const notes = (one: Family["fasteners"][number]) =>
    [
      one.thread,
      one.torque_nm === null ? "" : one.oiled ? "oiled" : "dry",
      one.locked_by,
      one.one_time_use ? "new every time" : "",
      one.left_hand ? "left-hand thread" : "",
    ]
      .filter(Boolean)
      .join(", ");
  const sources = $derived([
    ...new Set([...family.limits, ...family.fasteners, ...family.fluids].map((one) => one.source_note)),
  ]);
  function limitOf(limit: Family["limits"][number]): string {
    const number = (value: number) =>
      limit.unit === "" ? String(value) : value.toFixed(limit.unit === "mm" ? 2 : 1);
    if (limit.least !== null && limit.least === limit.greatest) return number(limit.least);
    if (limit.least === null) return `up to ${number(limit.greatest ?? 0)}`;
    return limit.greatest === null
      ? `from ${number(limit.least)}`
      : `${number(limit.least)} to ${number(limit.greatest)}`;
  }
</script>

<article>
  <h2>
    {family.name}
    {#if family.is_sample}<span class="sample align-middle">Sample sheet</span>{/if}
  </h2>
  <p>{family.build}</p>
  {#if isAxle}
    <dl class="mt-3 grid grid-cols-[9rem_1fr] gap-x-3 gap-y-0.5">
      <dt class="quiet">Carrier held by</dt>
      <dd>{family.carrier_label}{family.notch_mm ? `, ${family.notch_mm.toFixed(2)} mm a notch` : ""}</dd>
      <dt class="quiet">Depth shim</dt>
      <dd>{family.shim_place_label}</dd>
      <dt class="quiet">Pinion preload</dt>
      <dd>{family.preload_label}</dd>
      <dt class="quiet">Wheel ends</dt>
      <dd>{family.wheel_end}</dd>
      <dt class="quiet">Ring gear</dt>
      <dd>
        {family.ring_outer_diameter_mm} mm diameter, offset {family.offset_mm} mm, {family.tooth_form_label}
      </dd>
      <dt class="quiet">Ratios</dt>
      <dd>
        {family.ratios.map((one) => `${one.pinion_teeth}/${one.ring_teeth} (${ratio(one.ratio)})`).join(", ")}
      </dd>
    </dl>
  {/if}
  <table class="mt-3 w-full">
    <caption class="sr-only">Limits of {family.name}</caption>
    <thead><tr class="quiet text-left"><th scope="col">Limit</th><th scope="col">Value</th></tr></thead>
    <tbody>
      {#each family.limits as limit (limit.quantity)}
        <tr class="border-line border-t"
          ><th scope="row" class="py-1 pr-3 text-left font-normal">{limit.label}</th><td
            class="figure text-lg whitespace-nowrap">{limitOf(limit)}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
  {#if family.fasteners.length > 0}
    <table class="mt-4 w-full">
      <caption class="sr-only">Fasteners of {family.name}</caption>
      <thead
        ><tr class="quiet text-left"
          ><th scope="col">Fasteners</th><th scope="col">Count</th><th scope="col">Torque</th></tr
        ></thead
      >
      <tbody>
        {#each family.fasteners as one (one.place)}
          <tr class="border-line border-t align-baseline"
            ><th scope="row" class="py-1 pr-3 text-left font-normal"
              >{one.label}<span class="quiet block text-sm">{notes(one)}</span></th
            ><td class="figure pr-3 text-lg">{one.count}</td><td class="figure text-lg whitespace-nowrap"
              >{tightened(one)}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
  {#if family.fluids.length > 0}
    <table class="mt-4 w-full">
      <caption class="sr-only">Oil of {family.name}</caption>
      <thead><tr class="quiet text-left"><th scope="col">Oil</th><th scope="col">Fill</th></tr></thead>
      <tbody>
        {#each family.fluids as one (one.oil)}
          <tr class="border-line border-t align-baseline"
            ><th scope="row" class="py-1 pr-3 text-left font-normal"
              >{one.oil}<span class="quiet block text-sm">{one.text}</span></th
            ><td class="figure text-lg whitespace-nowrap">{one.litres.toFixed(2)} l</td></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
  <p class="quiet mt-2 text-sm">{sources.join(" ")} The maker's manual comes first.</p>
</article>
