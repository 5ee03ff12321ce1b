<script lang="ts">
  import { untrack } from "svelte";

  import type { Bench, Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import TypedField from "../lib/TypedField.svelte";
  import Notice from "../lib/Notice.svelte";
  import { UNIT_NAMES, type LengthUnit } from "../lib/quantity";
  import type { BenchOnScreen } from "./bench.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    unit: LengthUnit;
  }
  let { on, bench, unit }: Props = $props();
  const first = untrack(() => bench.start);
  let condition = $state<Schemas["BasisIn"]["set_state"]>(first.set_state);
  let flank = $state<Schemas["BasisIn"]["drive_flank"]>(first.drive_flank);
  let ringOn = $state<Schemas["BasisIn"]["ring_on"]>(first.ring_on);
  let backlash = $state("");
  let places = $state<number>(first.places);
  let wrong = $state<string | null>(null);
  let kept = $state(false);
  const percent = (share: number | undefined) => (share === undefined ? null : Math.round(100 * share));
  let found = $state<Record<string, number | null>>({
    drive_u: percent(first.as_found?.drive?.u),
    drive_v: percent(first.as_found?.drive?.v),
    coast_u: percent(first.as_found?.coast?.u),
    coast_v: percent(first.as_found?.coast?.v),
  });
  const FOUND = [
    { key: "drive_u", label: "Drive, toe to heel, %" },
    { key: "drive_v", label: "Drive, root to tip, %" },
    { key: "coast_u", label: "Coast, toe to heel, %" },
    { key: "coast_v", label: "Coast, root to tip, %" },
  ] as const;
  const share = (value: number | null | undefined) => (value == null ? null : value / 100);

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const used = condition === "used";
    const seen = used ? found : {};
    wrong = await on.setBasis({
      set_state: condition,
      drive_flank: flank,
      ring_on: ringOn,
      places,
      found_backlash: used ? backlash : "",
      found_drive_u: share(seen["drive_u"]),
      found_drive_v: share(seen["drive_v"]),
      found_coast_u: share(seen["coast_u"]),
      found_coast_v: share(seen["coast_v"]),
    });
    kept = wrong === null;
  }
</script>

<form class="grid max-w-xl gap-3" onsubmit={keep}>
  <fieldset class="grid gap-1">
    <legend class="label-text">New or used gear set?</legend>
    <label class="min-h-touch flex items-center gap-3"
      ><input class="radio" type="radio" value="new" bind:group={condition} /> New: set it to the sheet's window</label
    >
    <label class="min-h-touch flex items-center gap-3"
      ><input class="radio" type="radio" value="used" bind:group={condition} /> Used: set it back to as found
    </label>
  </fieldset>
  <fieldset class="grid gap-1">
    <legend class="label-text">Drive side of the ring gear teeth</legend>
    <label class="min-h-touch flex items-center gap-3"
      ><input class="radio" type="radio" value="convex" bind:group={flank} /> Convex side: rear axle, or front axle
      with a reverse-cut gear set</label
    >
    <label class="min-h-touch flex items-center gap-3"
      ><input class="radio" type="radio" value="concave" bind:group={flank} /> Concave side: front axle with a standard-cut
      gear set</label
    >
  </fieldset>
  <Field label="Ring gear on the vehicle's (left / right)">
    <select class="select w-full max-w-60" bind:value={ringOn}>
      <option value="">Not known</option>
      <option value="left">left</option>
      <option value="right">right</option>
    </select>
  </Field>
  <Field
    label="Backlash places round the ring gear"
    hint="4 to 16. Eight show runout; more if the teeth vary."
  >
    <input class="input w-24" type="number" min="4" max="16" step="1" required bind:value={places} />
  </Field>
  {#if condition === "used"}
    <p>
      As found, before it came apart. A worn gear set that is moved to the window of a new one howls. Leave a
      field empty only if it was not measured.
    </p>
    <div class="grid gap-3 sm:grid-cols-2">
      <TypedField label={`Backlash as found, ${UNIT_NAMES[unit]}`} bind:value={backlash} />
    </div>
    <div class="grid grid-cols-2 gap-3 sm:grid-cols-4">
      {#each FOUND as one (one.key)}
        <Field label={one.label}
          ><input class="input w-full" type="number" min="0" max="100" bind:value={found[one.key]} /></Field
        >
      {/each}
    </div>
  {/if}
  <button
    class={["btn justify-self-start", bench.start.asked ? "btn-plain" : "btn-neutral"]}
    disabled={on.busy}>Save</button
  >
  <Notice text={wrong} />
  {#if kept}<Notice kind="told" text="Saved." />{/if}
</form>
