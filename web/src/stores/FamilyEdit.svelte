<script lang="ts">
  import { untrack } from "svelte";

  import { ask, client, type Family, type Schemas } from "../api/client";
  import type { Unwritten } from "../lib/envelope";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import SheetFasteners from "./SheetFasteners.svelte";
  import SheetFluids from "./SheetFluids.svelte";

  type Given = Unwritten<Schemas["FamilyIn"]>;
  interface Props {
    /** null for a new one from nothing */
    family: Family | null;
    /** a new family that begins as this one is */
    copy: boolean;
    wrong: string | null;
    field: string;
    onsave: (code: string, given: Given) => void;
    onclose: () => void;
  }
  let { family, copy, wrong, field, onsave, onclose }: Props = $props();
  let quantities = $state.raw<Schemas["QuantityOut"][]>([]);
  let places = $state.raw<Schemas["FastenerPlaceOut"][]>([]);
  let code = $state(untrack(() => (copy ? "" : (family?.code ?? ""))));
  const BLANK: Given = {
    revision: 0,
    reason: "",
    part: "axle",
    name: "",
    maker: "",
    build: "",
    carrier_method: "side_shims",
    shim_place: "under_head",
    preload_method: "crush_sleeve",
    wheel_end: "",
    shafts: "",
    has_spreader: false,
    has_speed_ring: false,
    ring_outer_diameter_mm: 200,
    offset_mm: 0,
    tooth_form: "tapered",
    notch_mm: null,
    torque_window_seal: "excluded",
    bearing_offset_mm: null,
    backlash_places: 8,
    is_sample: false,
    limits: [],
    ratios: [],
    fasteners: [],
    fluids: [],
  };
  let given = $state<Given>(
    untrack(() => {
      if (family === null) return BLANK;
      const { limits, ratios, fasteners, fluids } = family;
      const plain = Object.fromEntries(
        Object.entries(family).filter(
          ([name]) => !name.endsWith("_label") && name !== "code" && name !== "shims",
        ),
      ) as unknown as Given;
      return {
        ...plain,
        name: copy ? `${family.name} copy` : family.name,
        revision: copy ? 0 : family.revision,
        reason: "",
        limits: limits.map(({ quantity, least, greatest, source_note }) => ({
          quantity,
          least,
          greatest,
          source_note,
        })),
        ratios: ratios.map(({ pinion_teeth, ring_teeth, needs_carrier, needs_thick_ring }) => ({
          pinion_teeth,
          ring_teeth,
          needs_carrier,
          needs_thick_ring,
        })),
        fasteners: [...fasteners],
        fluids: [...fluids],
      };
    }),
  );
  async function load() {
    const answer = await ask(client.GET("/api/v1/quantities"));
    if (answer.kind === "done") quantities = answer.value;
    const named = await ask(client.GET("/api/v1/fastener-places"));
    if (named.kind === "done") places = named.value;
  }
  void load();
  const free = $derived(
    quantities.filter((one) => !(given.limits ?? []).some((limit) => limit.quantity === one.quantity)),
  );
  const label = (quantity: string) => quantities.find((one) => one.quantity === quantity)?.label ?? quantity;
  const freePlaces = $derived(
    places.filter((one) => !(given.fasteners ?? []).some((line) => line.place === one.place)),
  );
  const placeLabel = (place: string) => places.find((one) => one.place === place)?.label ?? place;
  const isAxle = $derived(given.part === "axle");
  const isNew = $derived(copy || family === null);
  const at = (path: string) => field === path;

  const CHOICES = {
    part: [
      ["axle", "Axle or final drive"],
      ["transfer_case", "Transfer case"],
      ["propshaft", "Propshaft"],
    ],
    carrier_method: [
      ["side_shims", "side shims"],
      ["cover_shims", "shims under the side covers"],
      ["adjusters", "threaded adjusters"],
    ],
    shim_place: [
      ["under_head", "under the pinion head"],
      ["behind_cup", "behind the inner bearing's cup"],
      ["under_cartridge_flange", "under the flange of the pinion cartridge"],
    ],
    preload_method: [
      ["crush_sleeve", "crush sleeve"],
      ["spacer", "shimmed solid spacer"],
      ["outer_shims", "shims under the outer bearing"],
    ],
    shafts: [
      ["", "not known"],
      ["clip", "clip in the differential"],
      ["retainer", "bolted retainer at the tube end"],
      ["full_float", "full-float hub"],
      ["half_shafts", "half shafts with a circlip"],
    ],
    tooth_form: [
      ["tapered", "tapered depth"],
      ["uniform", "uniform depth"],
    ],
    torque_window_seal: [
      ["excluded", "without the seal's drag"],
      ["included", "with the seal's drag"],
    ],
  } as const;
</script>

{#snippet pick(name: keyof typeof CHOICES, words: string)}
  <Field label={words}>
    <select class="select w-full" bind:value={given[name]}>
      {#each CHOICES[name] as [value, word] (value)}<option {value}>{word}</option>{/each}
    </select>
  </Field>
{/snippet}

<form
  class="rule-top grid gap-4 pt-4"
  onsubmit={(event) => {
    event.preventDefault();
    const whole = $state.snapshot(given) as Given;
    onsave(code, isAxle ? whole : { ...whole, ratios: [] });
  }}
>
  <h2>
    {family === null ? "New family" : copy ? `New family, copied from ${family.name}` : `Edit ${family.name}`}
  </h2>
  <p class="quiet">
    Work that was begun keeps the revision that judges it. Every figure needs its source: the maker's manual
    comes first.
  </p>
  <div class="grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
    <Field label="Name"><input class="input w-full" maxlength="120" required bind:value={given.name} /></Field
    >
    {#if isNew}
      {#if family === null}{@render pick("part", "Sheet for")}{/if}
      <Field label="Code (small letters, digits, hyphens)">
        <input
          class="input w-full"
          maxlength="60"
          pattern="[a-z0-9\-]+"
          required
          aria-invalid={at("code")}
          bind:value={code}
        />
      </Field>
    {/if}
    <Field label="Maker"
      ><input class="input w-full" maxlength="120" required bind:value={given.maker} /></Field
    >
    <Field label="Build">
      <input class="input w-full" maxlength="300" required bind:value={given.build} />
    </Field>
    {#if isAxle}
      {@render pick("carrier_method", "Carrier held by")}
      {#if given.carrier_method === "adjusters"}
        <Field label="Travel of one notch (mm)">
          <input
            class="input w-full"
            type="number"
            step="any"
            aria-invalid={at("notch_mm")}
            bind:value={given.notch_mm}
          />
        </Field>
      {/if}
      {@render pick("shim_place", "Depth shim")}
      {@render pick("preload_method", "Pinion preload")}
      {@render pick("shafts", "Axle shafts held by")}
      <Field label="Wheel ends"
        ><input class="input w-full" maxlength="120" bind:value={given.wheel_end} /></Field
      >
      <Field label="Ring gear diameter (mm)">
        <input
          class="input w-full"
          type="number"
          step="any"
          required
          bind:value={given.ring_outer_diameter_mm}
        />
      </Field>
      <Field label="Hypoid offset (mm)">
        <input class="input w-full" type="number" step="any" required bind:value={given.offset_mm} />
      </Field>
      {@render pick("tooth_form", "Teeth")}
      {@render pick("torque_window_seal", "Torque windows")}
      <Field label="Places round the ring gear">
        <input
          class="input w-full"
          type="number"
          min="4"
          max="16"
          required
          bind:value={given.backlash_places}
        />
      </Field>
    {/if}
    <div class="grid content-end gap-1">
      {#if isAxle}
        <label class="min-h-touch inline-flex items-center gap-2"
          ><input type="checkbox" class="checkbox" bind:checked={given.has_spreader} /> Case spreader</label
        >
        <label class="min-h-touch inline-flex items-center gap-2"
          ><input type="checkbox" class="checkbox" bind:checked={given.has_speed_ring} /> Wheel-speed sensor</label
        >
      {/if}
      <label class="min-h-touch inline-flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={given.is_sample} /> Sample figures</label
      >
    </div>
  </div>
  <fieldset class="grid gap-2">
    <legend class="label-text">Limits</legend>
    {#each given.limits ?? [] as limit, index (limit.quantity)}
      <div
        class="border-line grid items-center gap-2 border-t pt-2 sm:grid-cols-[minmax(0,1.4fr)_7rem_7rem_minmax(0,1fr)_auto]"
      >
        <span>{label(limit.quantity)}</span>
        <input
          class="input"
          type="number"
          step="any"
          placeholder="least"
          aria-label={`Least: ${label(limit.quantity)}`}
          aria-invalid={at(`limits[${index}].least`)}
          bind:value={limit.least}
        />
        <input
          class="input"
          type="number"
          step="any"
          placeholder="greatest"
          aria-label={`Greatest: ${label(limit.quantity)}`}
          bind:value={limit.greatest}
        />
        <input
          class="input w-full"
          maxlength="200"
          placeholder="Source"
          aria-label={`Source: ${label(limit.quantity)}`}
          aria-invalid={at(`limits[${index}].source_note`)}
          bind:value={limit.source_note}
        />
        <button
          type="button"
          class="btn btn-plain btn-sm min-h-touch"
          onclick={() => (given.limits = (given.limits ?? []).filter((one) => one !== limit))}
          >Remove<span class="sr-only">: {label(limit.quantity)}</span></button
        >
      </div>
    {/each}
    <select
      class="select w-full max-w-md"
      aria-label="Add a limit"
      value=""
      onchange={(event) => {
        const quantity = event.currentTarget.value as Schemas["LimitIn"]["quantity"];
        given.limits = [...(given.limits ?? []), { quantity, least: null, greatest: null, source_note: "" }];
        event.currentTarget.value = "";
      }}
    >
      <option value="">Add a limit</option>
      {#each free as one (one.quantity)}<option value={one.quantity}>{one.label}</option>{/each}
    </select>
  </fieldset>
  <SheetFasteners
    lines={given.fasteners ?? []}
    free={freePlaces}
    label={placeLabel}
    {at}
    onchange={(lines) => (given.fasteners = lines)}
  />
  <SheetFluids lines={given.fluids ?? []} {at} onchange={(lines) => (given.fluids = lines)} />
  {#if isAxle}
    <fieldset class="grid gap-2">
      <legend class="label-text">Ratios (pinion and ring gear teeth)</legend>
      <div class="flex flex-wrap gap-3">
        {#each given.ratios ?? [] as one, index (index)}
          <span class="flex items-center gap-1">
            <input
              class="input w-20"
              type="number"
              aria-label={`Pinion teeth ${index + 1}`}
              bind:value={one.pinion_teeth}
            />/<input
              class="input w-20"
              type="number"
              aria-label={`Ring gear teeth ${index + 1}`}
              aria-invalid={at(`ratios[${index}].ring_teeth`)}
              bind:value={one.ring_teeth}
            />
            <button
              type="button"
              class="btn btn-plain btn-sm min-h-touch"
              onclick={() => (given.ratios = (given.ratios ?? []).filter((_, other) => other !== index))}
              >Remove<span class="sr-only"> ratio {index + 1}</span></button
            >
          </span>
        {/each}
        <button
          type="button"
          class="btn btn-plain"
          onclick={() =>
            (given.ratios = [
              ...(given.ratios ?? []),
              { pinion_teeth: 10, ring_teeth: 41, needs_carrier: false, needs_thick_ring: false },
            ])}>Add a ratio</button
        >
      </div>
    </fieldset>
  {/if}
  {#if !isNew}
    <Field label="Reason for the change">
      <input class="input w-full max-w-xl" maxlength="200" required bind:value={given.reason} />
    </Field>
  {/if}
  <Notice text={wrong} />
  <div class="flex gap-2">
    <button class="btn btn-primary">Save</button>
    <button type="button" class="btn btn-plain" onclick={onclose}>Cancel</button>
  </div>
</form>
