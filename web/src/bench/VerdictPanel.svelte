<script lang="ts">
  import type { Bench, Trial } from "../api/client";
  import { length, window, withDoubt, type LengthUnit } from "../lib/quantity";
  import StylusHint from "./StylusHint.svelte";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { ESTIMATED_WORDS, VERDICT_WORDS } from "../lib/words";

  interface Props {
    bench: Bench;
    trial: Trial;
    unit: LengthUnit;
  }
  let { bench, trial, unit }: Props = $props();
  const found = $derived(trial.assessment);
  const verdict = $derived(found?.verdict ?? "unknown");
</script>

<section aria-labelledby="verdict">
  <div class="flex items-center gap-3" role="status">
    <VerdictMark {verdict} size={44} />
    <h2 id="verdict" class="text-4xl!">{VERDICT_WORDS[verdict]}</h2>
  </div>
  {#if found}
    <dl class="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-0.5 text-lg">
      <dt class="quiet">Least</dt>
      <dd class="figure">{withDoubt(found.least_mm, bench.resolution_mm, unit)}</dd>
      <dt class="quiet">Greatest</dt>
      <dd class="figure">{withDoubt(found.greatest_mm, bench.resolution_mm, unit)}</dd>
      <dt class="quiet">Variation</dt>
      <dd class="figure">{length(found.variation_mm, unit)}</dd>
      {#if found.once_per_turn}
        <dt class="quiet">Once per turn</dt>
        <dd>
          <span class="figure">{length(2 * found.once_per_turn.amplitude_mm, unit)}</span>, greatest at {found.once_per_turn.high_at_deg.toFixed(
            0,
          )}°, {Math.round(found.once_per_turn.share * 100)} % of the variation
        </dd>
      {/if}
      <dt class="quiet">Window</dt>
      <dd>
        {window(bench.min_mm, bench.max_mm, unit)}{bench.start.as_found?.backlash_mm != null
          ? ", about as found"
          : ""}; variation {window(null, bench.max_variation_mm, unit)}
        {#if bench.limits.some((limit) => limit.is_sample)}<span class="sample">Sample</span>{/if}
      </dd>
    </dl>
    <details class="mt-2">
      <summary class="min-h-touch cursor-pointer py-2 font-semibold">Reasons</summary>
      <ul class="list-disc pl-5">
        {#each found.reasons as reason (reason.code + reason.text)}<li>{reason.text}</li>{/each}
        {#each bench.limits as limit (limit.quantity)}<li>
            {limit.label}: {limit.source_note} The maker's manual comes first.
          </li>{/each}
        <li>
          Measured with the plunger square to the tooth at the heel. The least reading is held against the
          minimum, greatest less least against the variation limit.
        </li>
        {#if bench.slope}
          <li>
            Moving the ring gear by 1 changes the backlash by {bench.slope.backlash_per_ring_move.toFixed(2)} on
            this gear set, from its geometry
            {bench.slope.estimated.length > 0
              ? `(estimated: ${bench.slope.estimated.map((name) => ESTIMATED_WORDS[name] ?? name).join(", ")})`
              : ""}.
          </li>
        {/if}
      </ul>
    </details>
  {:else}
    <StylusHint />
    <p class="mt-3 max-w-prose">
      Set the plunger square to a tooth at the heel, hold the pinion still and rock the ring gear. Type what
      the dial moves. Enter records it and goes to the next tooth.
    </p>
  {/if}
</section>
