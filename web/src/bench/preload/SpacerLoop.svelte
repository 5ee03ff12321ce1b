<script lang="ts">
  import type { Bench, Schemas } from "../../api/client";
  import TypedField from "../../lib/TypedField.svelte";
  import Notice from "../../lib/Notice.svelte";
  import {
    length,
    shim,
    torque,
    TORQUE_NAMES,
    torqueWindow,
    UNIT_NAMES,
    type LengthUnit,
    type TorqueUnit,
  } from "../../lib/quantity";
  import StackDrawing from "../StackDrawing.svelte";
  import type { BenchOnScreen } from "../bench.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    spacer: Schemas["SpacerOut"];
    unit: LengthUnit;
    torqueUnit: TorqueUnit;
    mayRecord: boolean;
  }
  let { on, bench, spacer, unit, torqueUnit, mayRecord }: Props = $props();
  let stack = $state("");
  let play = $state("");
  let typed = $state("");
  let wrong = $state<string | null>(null);
  const answer = $derived(spacer.answer);

  async function take(event: SubmitEvent) {
    event.preventDefault();
    wrong = await on.takeSpacerTry({ stack, end_play: play, torque: typed });
    if (wrong === null) stack = play = typed = "";
  }
</script>

<section aria-labelledby="spacer" class="rule-top pt-3">
  <h2 id="spacer" class="first-letter:uppercase">{bench.preload_label}</h2>
  {#if spacer.inside}
    <p class="figure mt-1 text-2xl" role="status">In. Leave this stack in.</p>
  {:else if answer}
    <p class="figure mt-1 text-2xl" role="status">
      Next stack: {shim(answer.pick?.total_mm ?? answer.stack_mm, unit)}
    </p>
    {#if answer.pick}<StackDrawing pieces={answer.pick.pieces} {unit} />{/if}
    {#each answer.reasons as reason (reason.code + reason.text)}<p>{reason.text}</p>{/each}
  {:else}
    <p class="max-w-prose">
      Start with a stack that leaves a little end play. Tighten the old nut to full torque, turning the pinion
      as you go. Then read the end play, or the rotating torque once there is none. Window for new bearings
      {torqueWindow(bench.preload.windows.new, torqueUnit)}.
    </p>
  {/if}
  {#if spacer.tries.length > 0}
    <div class="relative overflow-x-auto" tabindex="-1">
      <table class="mt-2 w-full max-w-2xl">
        <thead
          ><tr class="quiet text-left"
            ><th scope="col">Trial</th><th scope="col">Stack</th><th scope="col">End play</th><th scope="col"
              >Rotating torque</th
            ><th scope="col">By</th></tr
          ></thead
        >
        <tbody>
          {#each spacer.tries as one, index (one.id)}
            <tr class="border-line border-t">
              <th scope="row" class="py-1 text-left">{index + 1}</th>
              <td>{shim(one.stack_mm, unit)}</td>
              <td>{one.end_play_mm === null ? "" : length(one.end_play_mm, unit)}</td>
              <td>{one.rotating_torque_nm === null ? "" : torque(one.rotating_torque_nm, torqueUnit)}</td>
              <td>{one.by_name}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
  {#if mayRecord}
    <form
      class="mt-3 grid max-w-3xl grid-cols-2 items-end gap-3 sm:grid-cols-[1.5fr_1fr_1fr_auto]"
      onsubmit={take}
    >
      <TypedField label={`Stack fitted, ${UNIT_NAMES[unit]}`} bind:value={stack} required long />
      <TypedField label={`End play, ${UNIT_NAMES[unit]}`} bind:value={play} />
      <TypedField label={`Torque, ${TORQUE_NAMES[torqueUnit]}`} bind:value={typed} />
      <button class="btn btn-neutral" disabled={on.busy}>Record</button>
    </form>
    <div class="mt-2"><Notice text={wrong} /></div>
  {/if}
</section>
