<script lang="ts">
  import { client } from "../../api/client";
  import { typedNumber } from "../../lib/typed-number";
  import { WorkedOut } from "../../lib/worked-out.svelte";

  interface Props {
    /** as they are being typed: shown_low, true_low and so on */
    values: Record<string, string>;
  }
  let { values }: Props = $props();
  const pairs = $derived(
    ["low", "high"].flatMap((at) => {
      const shown_kmh = typedNumber(values[`shown_${at}`] ?? "");
      const true_kmh = typedNumber(values[`true_${at}`] ?? "");
      return shown_kmh === null || true_kmh === null ? [] : [{ shown_kmh, true_kmh }];
    }),
  );
  const check = new WorkedOut(
    () => (pairs.length < 2 ? null : { pairs }),
    (body) => client.POST("/api/v1/compute/speed.check", { body }),
  );
  const answer = $derived(check.value);
</script>

<div aria-live="polite">
  {#if check.wrong}<p>{check.wrong}</p>{/if}
  {#if answer}
    <p>
      <strong>True speed is {answer.factor.toFixed(3)} of the speed shown.</strong>
      At a true 100 km/h it shows {answer.shows_at_100_kmh.toFixed(1)}. Set the correction to
      {answer.correction.toFixed(3)}.
    </p>
    {#each answer.reasons as one (one.code)}<p>{one.text}</p>{/each}
  {/if}
</div>
