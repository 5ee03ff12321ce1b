<script lang="ts">
  import type { Bench, Trial } from "../api/client";
  import LastFew from "../lib/LastFew.svelte";
  import { length, shim, when, type LengthUnit } from "../lib/quantity";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../lib/words";
  import { oddsWords } from "./odds";

  interface Props {
    bench: Bench;
    unit: LengthUnit;
  }
  let { bench, unit }: Props = $props();
  const loops = $derived(bench.trials.length - 1);
  function setting(trial: Trial): string {
    if (trial.ring_side_notches !== null)
      return `${trial.ring_side_notches} / ${trial.far_side_notches} notches`;
    return `${shim(trial.ring_side_mm ?? 0, unit)} / ${shim(trial.far_side_mm ?? 0, unit)}`;
  }
  interface Read {
    u: number;
    v: number;
    mean?: { u: number; v: number };
  }
  const middle = (last: Read | null, read = last?.mean ?? last) =>
    read === null ? "–" : `${Math.round(100 * read.u)} · ${Math.round(100 * read.v)}`;
</script>

<section aria-labelledby="trials" class="rule-top pt-3">
  <div class="flex flex-wrap items-baseline gap-x-4">
    <h2 id="trials">Trials</h2>
    <p class="quiet">
      {loops === 0 ? "No changes yet." : loops === 1 ? "Taken apart once." : `Taken apart ${loops} times.`}
      Patterns: middle in %, toe to heel · root to face.
    </p>
  </div>
  <LastFew all={bench.trials} what="trials">
    {#snippet children(trials)}
      <div class="relative overflow-x-auto" tabindex="-1">
        <table class="w-full min-w-[46rem]">
          <thead>
            <tr class="quiet text-left">
              <th scope="col">Trial</th><th scope="col">Depth shim</th><th scope="col"
                >Ring gear side / far side</th
              ><th scope="col">Backlash</th><th scope="col">Drive</th><th scope="col">Coast</th><th
                scope="col">Expected</th
              ><th scope="col">Verdict</th>
            </tr>
          </thead>
          <tbody>
            {#each trials as trial (trial.id)}
              <tr class="border-line border-t align-top">
                <th scope="row" class="py-1.5 pr-3 text-left"
                  ><span class="figure text-xl">{trial.number}</span>
                  {#if trial.is_final}<span class="figure">final</span>{/if}
                  <span class="quiet block text-sm font-normal">{trial.by_name}, {when(trial.at)}</span></th
                >
                <td class="py-1.5 pr-3 whitespace-nowrap"
                  >{trial.depth_shim_mm === null ? "–" : shim(trial.depth_shim_mm, unit)}</td
                >
                <td class="py-1.5 pr-3 whitespace-nowrap">{setting(trial)}</td>
                <td class="py-1.5 pr-3"
                  >{#if trial.assessment}{length(trial.assessment.mean_mm, unit)}
                    <span class="quiet block text-sm whitespace-nowrap"
                      >{length(trial.assessment.least_mm, unit)} to {length(
                        trial.assessment.greatest_mm,
                        unit,
                      )}</span
                    >{:else}–{/if}</td
                >
                <td class="py-1.5 pr-3 whitespace-nowrap">{middle(trial.drive)}</td>
                <td class="py-1.5 pr-3 whitespace-nowrap">{middle(trial.coast)}</td>
                <td class="py-1.5 pr-3 whitespace-nowrap">
                  {#if trial.expected}
                    {length(trial.expected.backlash_mm, unit)}
                    <span class="quiet block text-sm"
                      >{middle(trial.expected.drive)}, {middle(trial.expected.coast)}; {oddsWords(
                        trial.expected.odds_percent,
                      )}</span
                    >
                  {/if}
                </td>
                <td class="py-1.5">
                  <span class="flex items-center gap-2"
                    ><VerdictMark verdict={trial.assessment?.verdict ?? "unknown"} size={20} />
                    backlash {VERDICT_WORDS[trial.assessment?.verdict ?? "unknown"].toLowerCase()}</span
                  >
                  <span class="flex items-center gap-2"
                    ><VerdictMark verdict={trial.pattern_verdict} size={20} />
                    pattern {VERDICT_WORDS[trial.pattern_verdict].toLowerCase()}</span
                  >
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/snippet}
  </LastFew>
</section>
