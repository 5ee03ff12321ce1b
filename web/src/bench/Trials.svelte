<script lang="ts">
  import type { Bench } from "../api/client";
  import { length, shim, when, type LengthUnit } from "../lib/quantity";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../lib/words";

  interface Props {
    bench: Bench;
    unit: LengthUnit;
  }
  let { bench, unit }: Props = $props();
  function setting(trial: Bench["trials"][number]): string {
    if (trial.ring_side_notches !== null)
      return `${trial.ring_side_notches} / ${trial.far_side_notches} notches`;
    return `${shim(trial.ring_side_mm ?? 0, unit)} / ${shim(trial.far_side_mm ?? 0, unit)}`;
  }
</script>

<section aria-labelledby="trials" class="rule-top pt-3">
  <h2 id="trials">Trials</h2>
  <div class="overflow-x-auto" tabindex="-1">
    <table class="w-full min-w-[36rem]">
      <thead>
        <tr class="quiet text-left">
          <th scope="col">Trial</th><th scope="col">Ring side / far side</th><th scope="col">Ring moved</th
          ><th scope="col">Expected mean</th><th scope="col">Measured mean</th><th scope="col"
            >Least to greatest</th
          ><th scope="col">Verdict</th>
        </tr>
      </thead>
      <tbody>
        {#each bench.trials as trial (trial.id)}
          <tr class="border-line border-t">
            <th scope="row" class="py-1.5 pr-3 text-left"
              ><span class="figure text-xl">{trial.number}</span>
              <span class="quiet block text-sm font-normal">{trial.by_name}, {when(trial.at)}</span></th
            >
            <td class="pr-3 whitespace-nowrap">{setting(trial)}</td>
            <td class="pr-3"
              >{trial.ring_move_mm === null
                ? ""
                : `${trial.ring_move_mm >= 0 ? "+" : "−"}${length(Math.abs(trial.ring_move_mm), unit)}`}</td
            >
            <td class="pr-3"
              >{trial.expected_backlash_mm === null ? "" : length(trial.expected_backlash_mm, unit)}</td
            >
            {#if trial.assessment}
              <td class="pr-3">{length(trial.assessment.mean_mm, unit)}</td>
              <td class="pr-3"
                >{length(trial.assessment.least_mm, unit)} to {length(trial.assessment.greatest_mm, unit)}</td
              >
              <td
                ><span class="flex items-center gap-2"
                  ><VerdictMark verdict={trial.assessment.verdict} size={22} />{VERDICT_WORDS[
                    trial.assessment.verdict
                  ]}</span
                ></td
              >
            {:else}
              <td class="quiet" colspan="3">not measured yet</td>
            {/if}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</section>
