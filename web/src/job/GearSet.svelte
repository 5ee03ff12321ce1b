<script lang="ts">
  import { ask, client, sentence } from "../api/client";
  import type { paths } from "../api/schema";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { ratio } from "../lib/quantity";
  import { navigate, route } from "../routes";
  import GearSetAnswer, { type Identity } from "./GearSetAnswer.svelte";
  import { JobOnScreen } from "./job.svelte";

  const session = getSession();
  const on = new JobOnScreen(
    route.getParams("/jobs/:id/work/:work/gear-set").id,
    route.getParams("/jobs/:id/work/:work/gear-set").work,
  );
  void on.load();

  let way = $state<"teeth" | "turns">("teeth");
  let pinionTeeth = $state<number | null>(null);
  let ringTeeth = $state<number | null>(null);
  let pinionTurns = $state<number | null>(null);
  let wheelTurns = $state<number | null>(10);
  let other = $state<"held" | "turning_together">("held");
  let guess = $state<number | null>(null);
  let identity = $state.raw<Identity | null>(null);
  let wrong = $state<string | null>(null);
  const mayKeep = $derived((session.me?.may.record ?? false) && on.work?.signed_off_at === null);

  type Clues =
    paths["/api/v1/compute/gearset.identify"]["post"]["requestBody"]["content"]["application/json"];
  function clues(): Clues {
    const guessed = guess === null ? {} : { guess_ratio: guess };
    return way === "teeth"
      ? { pinion_teeth: pinionTeeth, ring_teeth: ringTeeth, ...guessed }
      : { pinion_turns: pinionTurns, wheel_turns: wheelTurns, other_wheel: other, ...guessed };
  }
  function changed() {
    identity = null; // an answer must not outlive what was counted
  }
  async function identify(event: SubmitEvent) {
    event.preventDefault();
    const answer = await ask(client.POST("/api/v1/compute/gearset.identify", { body: clues() }));
    wrong = answer.kind === "done" ? null : sentence(answer);
    identity = answer.kind === "done" ? answer.value : null;
  }
  async function keep(pinion: number, ring: number) {
    const common = {
      pinion_teeth: pinion,
      ring_teeth: ring,
      turn_uncertainty: 0.05,
      ...(guess === null ? {} : { guess_ratio: guess }),
    };
    const turns = { pinion_turns: pinionTurns, wheel_turns: wheelTurns, other_wheel: other };
    const kept = await on.identify(
      way === "teeth" ? { ...common, by_turns: false } : { ...common, ...turns, by_turns: true },
    );
    if (kept) await navigate("/jobs/:id/work/:work", { params: { id: on.id, work: on.workId } });
    else wrong = on.wrong;
  }
</script>

<svelte:head><title>Gear set · Amber Pinion</title></svelte:head>
{#if on.job && on.work}
  <p><a href={`/jobs/${on.id}/work/${on.workId}`}>Job {on.job.number}, {on.job.vehicle}</a></p>
  <h1 class="mb-4">Identify the gear set</h1>
  <div class="grid gap-x-12 gap-y-6 lg:grid-cols-[24rem_minmax(0,1fr)]">
    <form class="grid content-start gap-4" onsubmit={identify} oninput={changed}>
      <fieldset class="grid gap-1">
        <legend class="label-text">How was it counted?</legend>
        <label class="min-h-touch flex items-center gap-3"
          ><input class="radio radio-neutral" type="radio" value="teeth" bind:group={way} /> Teeth counted</label
        >
        <label class="min-h-touch flex items-center gap-3"
          ><input class="radio radio-neutral" type="radio" value="turns" bind:group={way} /> Turns counted, axle
          closed</label
        >
      </fieldset>
      {#if way === "teeth"}
        <div class="grid grid-cols-2 gap-3">
          <Field label="Pinion teeth"
            ><input
              class="input w-full"
              type="number"
              min="3"
              max="60"
              required
              bind:value={pinionTeeth}
            /></Field
          >
          <Field label="Ring teeth"
            ><input
              class="input w-full"
              type="number"
              min="3"
              max="200"
              required
              bind:value={ringTeeth}
            /></Field
          >
        </div>
      {:else}
        <Field
          label="The other wheel"
          hint="With it held, the free wheel turns twice for each turn of the ring gear."
        >
          <select class="select w-full" bind:value={other}>
            <option value="held">held still</option>
            <option value="turning_together">turned together with this one</option>
          </select>
        </Field>
        <div class="grid grid-cols-2 gap-3">
          <Field label="Wheel turns"
            ><input
              class="input w-full"
              type="number"
              min="0.25"
              max="1000"
              step="any"
              required
              bind:value={wheelTurns}
            /></Field
          >
          <Field label="Pinion turns"
            ><input
              class="input w-full"
              type="number"
              min="0.25"
              max="10000"
              step="any"
              required
              bind:value={pinionTurns}
            /></Field
          >
        </div>
        <p class="quiet">
          Gears crush fingers: keep your hands out while somebody turns. Ten turns of the wheel, with a chalk
          mark on the tyre and the flange, are enough to tell close ratios apart.
        </p>
      {/if}
      <Field
        label="Ratio on the tag or as told (optional)"
        hint="From the axle tag, or as the last owner told it."
        ><input class="input w-full" type="number" min="1" max="20" step="any" bind:value={guess} /></Field
      >
      <Notice text={wrong} />
      <button class={["btn justify-self-start", identity ? "btn-plain" : "btn-primary"]}>Calculate</button>
    </form>
    <div>
      {#if identity}
        <GearSetAnswer
          {identity}
          {guess}
          ratios={on.work.ratios}
          {mayKeep}
          counted={way === "teeth" ? [pinionTeeth, ringTeeth] : null}
          onkeep={keep}
        />
      {:else}
        <div class="border-line border-l-4 pl-4">
          <h2 class="mb-1">Ratios of this family</h2>
          <ul>
            {#each on.work.ratios as one (`${one.pinion_teeth}/${one.ring_teeth}`)}
              <li class="figure text-xl">
                {one.pinion_teeth} / {one.ring_teeth} <span class="quiet">{ratio(one.ratio)}</span>
              </li>
            {/each}
          </ul>
          {#if on.work.gear_set}
            <p class="mt-3">
              Recorded: {on.work.gear_set.pinion_teeth} / {on.work.gear_set.ring_teeth}, by {on.work.gear_set
                .by_name}. A new count is added to the record and is used from then on.
            </p>
          {/if}
        </div>
      {/if}
    </div>
  </div>
{:else}
  <Notice text={on.wrong} />
{/if}
