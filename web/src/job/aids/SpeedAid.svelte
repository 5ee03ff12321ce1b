<script lang="ts">
  import { ask, client, sentence } from "../../api/client";
  import type { paths } from "../../api/schema";
  import { typedNumber } from "../../lib/typed-number";

  interface Props {
    /** as they are being typed: shown_low, true_low and so on */
    values: Record<string, string>;
  }
  let { values }: Props = $props();
  type Answer =
    paths["/api/v1/compute/speed.check"]["post"]["responses"]["200"]["content"]["application/json"];
  let answer = $state.raw<Answer | null>(null);
  let wrong = $state<string | null>(null);
  const pairs = $derived(
    ["low", "high"].map((at) => [
      typedNumber(values[`shown_${at}`] ?? ""),
      typedNumber(values[`true_${at}`] ?? ""),
    ]),
  );

  $effect(() => {
    const given = pairs.flatMap(([shown_kmh, true_kmh]) =>
      shown_kmh == null || true_kmh == null ? [] : [{ shown_kmh, true_kmh }],
    );
    answer = null;
    wrong = null;
    if (given.length < 2) return;
    let gone = false;
    void ask(client.POST("/api/v1/compute/speed.check", { body: { pairs: given } })).then((found) => {
      if (gone) return;
      if (found.kind === "done") answer = found.value;
      else wrong = sentence(found);
    });
    return () => (gone = true);
  });
</script>

<div aria-live="polite">
  {#if wrong}<p>{wrong}</p>{/if}
  {#if answer}
    <p>
      <strong>True speed is {answer.factor.toFixed(3)} of the speed shown.</strong>
      At a true 100 km/h it shows {answer.shows_at_100_kmh.toFixed(1)}. Set the correction to
      {answer.correction.toFixed(3)}.
    </p>
    {#each answer.reasons as one (one.code)}<p>{one.text}</p>{/each}
  {/if}
</div>
