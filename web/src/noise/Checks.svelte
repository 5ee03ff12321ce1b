<script lang="ts">
  import type { Schemas } from "../api/client";

  interface Props {
    checks: Schemas["CheckAdvised"][];
    reason: string;
    /** told when somebody made a check; absent where outcomes are not counted */
    onoutcome?: ((code: string, result: "changed" | "stayed") => void) | null;
  }
  let { checks, reason, onoutcome = null }: Props = $props();
  const first = $derived(checks[0] ?? null);
</script>

<section aria-labelledby="next-check">
  <h2 id="next-check">Quickest check</h2>
  {#if first}
    <div class="border-primary mt-1 border-l-8 pl-4">
      <p class="figure text-2xl">{first.title}</p>
      <p>{first.how}</p>
      <p class="quiet">About {first.minutes} minutes.</p>
      <p class="mt-1"><strong>Caution:</strong> {first.caution}</p>
      {#if first.code === "record"}
        <p class="mt-1">{first.if_it_changes} {first.if_it_stays}</p>
      {:else}
        <div class="mt-2 grid gap-2">
          {#each [{ result: "changed", word: "It changed or stopped", then: first.if_it_changes }, { result: "stayed", word: "It stayed the same", then: first.if_it_stays }] as const as one (one.result)}
            <div>
              {#if onoutcome}
                <button class="btn btn-plain w-full" onclick={() => onoutcome?.(first.code, one.result)}
                  >{one.word}</button
                >
              {:else}<p class="label-text">{one.word}</p>{/if}
              <p class="text-sm">{one.then}</p>
            </div>
          {/each}
        </div>
      {/if}
    </div>
    {#if checks.length > 1}
      <p class="quiet mt-2">
        Takes longer: {checks
          .slice(1)
          .map((one) => `${one.title.toLowerCase()} (${one.minutes} min)`)
          .join("; ")}.
      </p>
    {/if}
  {/if}
  <p class="quiet mt-1">{reason}</p>
</section>
