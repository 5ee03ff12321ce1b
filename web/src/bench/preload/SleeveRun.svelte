<script lang="ts">
  import type { Schemas } from "../../api/client";
  import Axes from "../../lib/Axes.svelte";
  import Field from "../../lib/Field.svelte";
  import TypedField from "../../lib/TypedField.svelte";
  import Notice from "../../lib/Notice.svelte";
  import { BOX } from "../../lib/plot";
  import ReasonDialog from "../../lib/ReasonDialog.svelte";
  import { torque, torqueShown, TORQUE_NAMES, torqueWindow, type TorqueUnit } from "../../lib/quantity";
  import type { BenchOnScreen } from "../bench.svelte";
  import { sleevePlot } from "./sleeve";

  interface Props {
    on: BenchOnScreen;
    preload: Schemas["PreloadOut"];
    sleeve: Schemas["SleeveOut"];
    torqueUnit: TorqueUnit;
    mayRecord: boolean;
  }
  let { on, preload, sleeve, torqueUnit, mayRecord }: Props = $props();
  let turn = $state<number | null>(null);
  let typed = $state("");
  let nut = $state<number | null>(null);
  let wrong = $state<string | null>(null);
  let back = $state.raw<Schemas["SleeveStepOut"] | null>(null);
  let backWrong = $state<string | null>(null);
  let fresh = $state(false);

  const answer = $derived(sleeve.answer);
  const last = $derived(sleeve.steps.at(-1));
  const window = $derived(preload.windows.new);
  const goesTo = $derived((last?.nut_turn_deg ?? 0) + (answer?.next_step_deg ?? 5));
  const chart = $derived(sleevePlot(sleeve.steps, window?.greatest ?? 3, goesTo, torqueShown(1, torqueUnit)));
  const x = (deg: number) => chart.x(deg);
  const y = (nm: number) => chart.y(torqueShown(nm, torqueUnit));
  const past = $derived(answer?.state === "past");
  const number = $derived(fresh ? sleeve.number + 1 : sleeve.number);
  const HEAD = {
    slack: "Still end play.",
    closing: "Preload is building up.",
    in: "In. Stop here.",
    past: "Past the window: replace this crush sleeve.",
  };
  const told = $derived(
    sleeve.steps
      .map((one) => `${one.nut_turn_deg}°: ${torque(one.rotating_torque_nm, torqueUnit)}`)
      .join("; "),
  );

  async function take(event: SubmitEvent) {
    event.preventDefault();
    if (turn === null) return;
    const sent = { turn, typed, nut };
    // the next step may be typed while this one is on its way
    turn = nut = null;
    typed = "";
    wrong = await on.takeSleeveStep({
      sleeve: number,
      nut_turn_deg: sent.turn,
      typed: sent.typed,
      nut_torque_nm: sent.nut,
    });
    if (wrong === null) fresh = false;
    else if (turn === null && typed === "") ({ turn, typed, nut } = sent);
    document.getElementById("nut-turn")?.focus();
  }
</script>

<section aria-labelledby="sleeve" class="rule-top pt-3">
  <h2 id="sleeve">Crush sleeve{sleeve.used_up > 0 ? `, number ${sleeve.number}` : ""}</h2>
  {#if answer}
    <p class="figure mt-1 text-2xl" role="status">
      {HEAD[answer.state]}
      {#if answer.state !== "in" && answer.state !== "past"}
        {answer.nut_turn_to_go_deg === null
          ? "Next"
          : `About ${answer.nut_turn_to_go_deg.toFixed(0)}° to the middle of the window; next`}
        step {answer.next_step_deg.toFixed(answer.next_step_deg < 3 ? 1 : 0)}° at most.
      {/if}
    </p>
    {#each answer.reasons as reason (reason.code + reason.text)}<p>{reason.text}</p>{/each}
  {:else}
    <p class="max-w-prose">
      New crush sleeve, new pinion nut. Tighten until the end play is just gone and call that 0°. Then turn
      the nut a little, spin the pinion, read the rotating torque and enter both here. A crush sleeve only
      goes one way. Nut torque is not the target.
    </p>
  {/if}
  {#if sleeve.steps.length > 0}
    <svg
      viewBox={`0 0 ${BOX.width} ${BOX.height}`}
      class="mt-2 block w-full max-w-2xl"
      role="img"
      aria-label={`Rotating torque over the turn of the nut. ${told}. Window ${torqueWindow(window, torqueUnit)}.`}
    >
      {#if window?.least != null && window.greatest != null}
        <rect
          x={BOX.left}
          y={y(window.greatest)}
          width={BOX.width - BOX.left - BOX.right}
          height={y(window.least) - y(window.greatest)}
          class="fill-base-300"
        />
      {/if}
      <Axes
        {chart}
        xName="turn of the nut from contact, °"
        yName={`rotating torque, ${TORQUE_NAMES[torqueUnit]}`}
        yDigits={torqueUnit === "nm" ? 1 : 0}
      />
      <path
        d={`M${sleeve.steps.map((one) => `${x(one.nut_turn_deg)} ${y(one.rotating_torque_nm)}`).join("L")}`}
        fill="none"
        stroke="currentColor"
        stroke-width="2.5"
      />
      {#each sleeve.steps as one (one.id)}
        <rect
          x={x(one.nut_turn_deg) - 5}
          y={y(one.rotating_torque_nm) - 5}
          width="10"
          height="10"
          fill="currentColor"
        />
      {/each}
      {#if answer && answer.state !== "in" && answer.state !== "past"}
        <path
          d={`M${x(goesTo)} ${BOX.top}V${BOX.height - BOX.bottom}`}
          class="stroke-next"
          stroke-width="4"
        />
        <path
          d={`M${x(goesTo) + 3} ${BOX.top}V${BOX.height - BOX.bottom}`}
          stroke="currentColor"
          stroke-width="1"
        />
      {/if}
    </svg>
    <details>
      <summary class="min-h-touch cursor-pointer py-2 font-semibold">Show as a table</summary>
      <table class="max-w-xl">
        <thead
          ><tr class="quiet text-left"
            ><th scope="col" class="pr-5">Nut</th><th scope="col" class="pr-5">Rotating torque</th><th
              scope="col"
              class="pr-5">Nut torque</th
            ><th scope="col">By</th><th></th></tr
          ></thead
        >
        <tbody>
          {#each sleeve.steps as one (one.id)}
            <tr class="border-line border-t">
              <th scope="row" class="pr-5 text-left font-normal">{one.nut_turn_deg}°</th>
              <td class="pr-5">{torque(one.rotating_torque_nm, torqueUnit)}</td>
              <td class="pr-5">{one.nut_torque_nm === null ? "" : `${one.nut_torque_nm} Nm`}</td>
              <td class="pr-5">{one.by_name}</td>
              <td
                >{#if mayRecord}<button
                    class="min-h-touch px-2 underline underline-offset-3"
                    onclick={() => (back = one)}
                    >Undo<span class="sr-only"> the step at {one.nut_turn_deg}°</span></button
                  >{/if}</td
              >
            </tr>
          {/each}
          {#each sleeve.taken_back as one (one.id)}
            <tr class="border-line quiet border-t line-through"
              ><th scope="row" class="text-left font-normal">{one.nut_turn_deg}°</th><td
                >{torque(one.rotating_torque_nm, torqueUnit)}</td
              ><td></td><td colspan="2">{one.reason}</td></tr
            >
          {/each}
        </tbody>
      </table>
    </details>
  {/if}
  {#if mayRecord}
    {#if past && !fresh}
      <p class="border-out bg-base-200 mt-2 border-l-4 px-3 py-2">
        Never back off the nut: the crush sleeve no longer holds. Take the nut off, fit a new crush sleeve and
        start again.
      </p>
      <button class="btn btn-neutral mt-2" onclick={() => (fresh = true)}>New crush sleeve fitted</button>
    {:else}
      <form
        class="mt-3 grid max-w-3xl grid-cols-2 items-end gap-3 sm:grid-cols-[1fr_1fr_1fr_auto]"
        onsubmit={take}
      >
        <Field label="Nut turn from contact (°)"
          ><input
            id="nut-turn"
            class="input w-full"
            type="number"
            step="any"
            min="0"
            max="1440"
            required
            bind:value={turn}
          /></Field
        >
        <TypedField label={`Rotating torque, ${TORQUE_NAMES[torqueUnit]}`} bind:value={typed} required />
        <Field label="Nut torque (Nm, optional)"
          ><input class="input w-full" type="number" step="any" min="0" max="2000" bind:value={nut} /></Field
        >
        <button
          class={["btn", answer?.state === "closing" ? "btn-primary" : "btn-neutral"]}
          disabled={on.busy}>Record step</button
        >
      </form>
    {/if}
    <div class="mt-2"><Notice text={wrong} /></div>
  {/if}
</section>
{#if back}
  {@const step = back}
  <ReasonDialog
    title={`Take back the step at ${step.nut_turn_deg}°`}
    ask="Why? It stays on the record, struck through."
    wrong={backWrong}
    onclose={() => (back = null)}
    onreason={async (reason) => {
      backWrong = await on.takeBackSleeveStep(step.id, reason);
      if (backWrong === null) back = null;
    }}
  />
{/if}
