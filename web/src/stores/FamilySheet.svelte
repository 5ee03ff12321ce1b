<script lang="ts">
  import type { Family } from "../api/client";
  import { ratio } from "../lib/quantity";

  interface Props {
    family: Family;
  }
  let { family }: Props = $props();
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
  <p class="quiet mt-2 text-sm">
    {[...new Set(family.limits.map((limit) => limit.source_note))].join(" ")} The maker's manual comes first.
  </p>
</article>
