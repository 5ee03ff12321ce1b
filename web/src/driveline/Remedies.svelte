<script lang="ts">
  import Notice from "../lib/Notice.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import CasesTable from "./CasesTable.svelte";
  import type { DrivelineAnswer, DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    answer: DrivelineAnswer;
  }
  let { on, inputs, answer }: Props = $props();
  let wrong = $state<string | null>(null);
  const plan = $derived(on.recommended?.plan ?? null);
  const shafts = $derived(inputs.readings.shafts.length);
  const canClock = $derived((inputs.teeth ?? []).some((one) => one !== null));
  const choices = $derived([
    {
      key: "wedge",
      bounds: "wedge_deg",
      word: "Wedges under the spring pads",
      unit: "°",
      has: true,
      why: "",
    },
    {
      key: "shim",
      bounds: "shim_mm",
      word: "Centre bearing height",
      unit: "mm",
      has: shafts > 1,
      why: "a one-piece propshaft has no centre bearing",
    },
    {
      key: "mount",
      bounds: "mount_mm",
      word: "Shim at the tail mount",
      unit: "mm",
      has: Boolean(inputs.readings.mount),
      why: "enter the gearbox mounts first",
    },
  ] as const);
  const WORDS: Record<string, string> = {
    wedge_deg: "wedges",
    shim_mm: "the centre bearing",
    mount_mm: "the tail mount",
  };
  const named = (name: string) => WORDS[name] ?? name.replace("clock_shaft_", "phasing of propshaft ");
  const tried = $derived(answer.tried);

  async function find() {
    wrong = await on.find();
  }
  function byHand(change: (tried: NonNullable<Inputs["tried"]>) => void) {
    inputs.tried ??= { wedge_deg: 0, shim_mm: 0, mount_mm: 0, clock_deg: null };
    change(inputs.tried);
    on.changed();
  }
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-5">
  <fieldset>
    <legend class="label-text">What may be changed</legend>
    <ul class="grid gap-1">
      {#each choices as one (one.key)}
        <li class="grid grid-cols-[minmax(0,1fr)_5rem_5rem] items-center gap-2">
          <label class="min-h-touch flex items-center gap-3"
            ><input class="checkbox" type="checkbox" disabled={!one.has} bind:checked={on.may[one.key]} />
            <span
              >{one.word}{#if !one.has}<span class="quiet block text-sm">{one.why}</span>{/if}</span
            ></label
          >
          {#if one.has}
            {#each [0, 1] as const as side (side)}
              <NumberField
                label={`${side === 0 ? "from" : "to"}, ${one.unit}`}
                value={on.may[one.bounds][side]}
                ontyped={(value) => {
                  if (value !== null) on.may[one.bounds][side] = value;
                }}
              />
            {/each}
          {/if}
        </li>
      {/each}
      <li>
        <label class="min-h-touch flex items-center gap-3"
          ><input class="checkbox" type="checkbox" disabled={!canClock} bind:checked={on.may.clock} />
          <span
            >Phasing by whole teeth{#if !canClock}<span class="quiet block text-sm"
                >enter the spline teeth of the slip joint first</span
              >{/if}</span
          ></label
        >
      </li>
    </ul>
    <button
      class={["btn mt-2", plan ? "btn-plain" : "btn-primary"]}
      disabled={on.busy}
      onclick={() => void find()}>Find the fewest changes</button
    >
  </fieldset>
  <Notice text={wrong} />
  {#if plan}
    <section aria-label="Proposal" class="border-base-content border-l-4 pl-4">
      <p class="figure flex items-center gap-2 text-2xl">
        <VerdictMark verdict={plan.within ? "in" : "out"} size={26} />
        {plan.within
          ? plan.changes.length === 0
            ? "Nothing needs changing"
            : `${plan.changes.length === 1 ? "One change" : `${plan.changes.length} changes`}, and every position is in`
          : "Not every position comes in"}
      </p>
      <p>{plan.reasons.join(" ")}</p>
      <ol class="mt-2 grid gap-3">
        {#each plan.changes as change (change.name)}
          <li>
            <strong>{change.text}</strong>
            <p>{change.does}</p>
            <p class="label-text mt-1">What else it changes</p>
            <ul class="list-disc pl-5">
              {#each change.costs as cost (cost)}<li>{cost}</li>{/each}
            </ul>
          </li>
        {/each}
      </ol>
      {#if plan.others.length > 0}<p class="quiet mt-2">
          Just as good: {plan.others.map((one) => one.map(named).join(" and ")).join("; or ")}.
        </p>{/if}
      {#if plan.changes.length > 0}
        <button class={["btn mt-3", tried ? "btn-plain" : "btn-primary"]} onclick={() => on.tryPlan()}
          >Show on the drawing</button
        >
      {/if}
    </section>
  {/if}
  <section aria-labelledby="by-hand">
    <h2 id="by-hand">Try your own</h2>
    <div class="grid max-w-2xl grid-cols-2 gap-2 sm:grid-cols-4">
      <NumberField
        label="Wedge (° nose up)"
        value={inputs.tried?.wedge_deg ?? 0}
        ontyped={(value) => value !== null && byHand((one) => (one.wedge_deg = value))}
      />
      {#if shafts > 1}<NumberField
          label="Centre bearing up (mm)"
          value={inputs.tried?.shim_mm ?? 0}
          ontyped={(value) => value !== null && byHand((one) => (one.shim_mm = value))}
        />{/if}
      {#if inputs.readings.mount}<NumberField
          label="Tail mount up (mm)"
          value={inputs.tried?.mount_mm ?? 0}
          ontyped={(value) => value !== null && byHand((one) => (one.mount_mm = value))}
        />{/if}
      {#each on.clocks as stands, index (index)}
        <NumberField
          label={`Rear yoke of propshaft ${index + 1} (°)`}
          value={inputs.tried?.clock_deg?.[index] ?? stands}
          digits={2}
          ontyped={(value) =>
            value !== null &&
            byHand((one) => {
              one.clock_deg = on.clocks.map((now, at) =>
                at === index ? value : (one.clock_deg?.[at] ?? now),
              );
            })}
        />
      {/each}
    </div>
    {#if tried}<button class="btn btn-plain mt-3" onclick={() => on.leave()}>Remove the remedy</button>{/if}
  </section>
  <CasesTable now={answer.now.cases} tried={tried?.cases ?? null} />
</div>
