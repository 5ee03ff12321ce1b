<script lang="ts">
  import type { Schemas } from "../api/client";
  import Notice from "../lib/Notice.svelte";
  import { ratio as ratioWord } from "../lib/quantity";
  import TypedField from "../lib/TypedField.svelte";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import type { RatioDesk } from "./desk.svelte";

  interface Props {
    on: RatioDesk;
    desk: Schemas["DeskOut"];
    may: boolean;
  }
  let { on, desk, may }: Props = $props();
  const ENDS = $derived([
    { end: "front" as const, name: "Front", known: desk.front },
    { end: "rear" as const, name: "Rear", known: desk.rear },
  ]);
  let end = $state<"front" | "rear">("rear");
  let tyre = $state("");
  let pinion = $state("");
  let ring = $state("");
  let wrong = $state<string | null>(null);
  const whole = (text: string) => (text.trim() === "" ? null : Number(text));

  async function tell(event: SubmitEvent) {
    event.preventDefault();
    const known = end === "front" ? desk.front : desk.rear;
    const [pinion_teeth, ring_teeth] = [whole(pinion), whole(ring)];
    if ([pinion_teeth, ring_teeth].some((one) => one !== null && !Number.isInteger(one))) {
      wrong = "Tooth counts must be whole numbers.";
      return;
    }
    wrong = await on.tellEnd({
      end,
      tyre: tyre.trim() === "" ? (known?.tyre ?? "") : tyre,
      rollout_mm: null,
      turns: 1,
      pinion_teeth: pinion_teeth ?? (ring_teeth === null ? (known?.pinion_teeth ?? null) : null),
      ring_teeth: ring_teeth ?? (pinion_teeth === null ? (known?.ring_teeth ?? null) : null),
    });
    if (wrong === null) tyre = pinion = ring = "";
  }
</script>

<section aria-labelledby="front-rear" class="rule-top pt-3">
  <h2 id="front-rear">
    {desk.layout === "four_wheel_drive" ? "Front and rear match" : "On the vehicle now"}
  </h2>
  {#if desk.match}
    <p class="mt-1 flex items-center gap-3" role="status">
      <VerdictMark verdict={desk.match.verdict} size={30} />
      <span class="figure text-xl">{desk.match.text}</span>
    </p>
    <p>
      {#if desk.match.leads !== "neither"}
        The {desk.match.leads} axle runs ahead: {Math.abs(desk.match.scrub_m_per_km).toFixed(1)} m of scrub per
        km,
        {Math.abs(desk.match.windup_prop_turns_per_km).toFixed(1)} propshaft turns of wind-up per km. A front ratio
        of
        {desk.match.front_ratio_for_zero.toFixed(3)} would match.
      {/if}
      {desk.match.tyres_known ? "" : "Tyres are taken as equal until one is entered."}
      {desk.match.verdict === "out" ? "The road test stays closed until they match." : ""}
    </p>
  {:else if desk.layout === "four_wheel_drive"}
    <p>Enter tyre and teeth for both axles. They are checked once both ratios are known.</p>
  {/if}
  <dl class="mt-1 grid grid-cols-[auto_minmax(0,1fr)] gap-x-5">
    {#each ENDS as one (one.end)}
      {#if one.known}
        <dt class="quiet">{one.name}</dt>
        <dd>
          {one.known.tyre || "tyre not entered"}, {one.known.pinion_teeth && one.known.ring_teeth
            ? `${one.known.pinion_teeth}/${one.known.ring_teeth} = ${ratioWord(one.known.ring_teeth / one.known.pinion_teeth)}`
            : "ratio not known"}
          {one.known.measured ? "(roll-out measured)" : ""}
        </dd>
      {/if}
    {/each}
  </dl>
  {#if may}
    <form
      class="mt-2 grid max-w-3xl grid-cols-2 items-end gap-3 sm:grid-cols-[8rem_minmax(0,1fr)_6rem_6rem_auto]"
      onsubmit={tell}
    >
      <label class="grid gap-1">
        <span class="label-text">Axle</span>
        <select class="select w-full" bind:value={end}>
          {#if desk.layout === "four_wheel_drive"}<option value="front">Front</option>{/if}
          <option value="rear">Rear</option>
        </select>
      </label>
      <TypedField label="Tyre fitted" bind:value={tyre} signed />
      <TypedField label="Pinion teeth" bind:value={pinion} />
      <TypedField label="Ring teeth" bind:value={ring} />
      <button class="btn btn-plain" disabled={on.busy}>Save</button>
    </form>
    <div class="mt-2"><Notice text={wrong} /></div>
  {/if}
</section>
