<script lang="ts">
  import { ask, client } from "../api/client";
  import { length, otherLength, type LengthUnit } from "../lib/quantity";

  interface Props {
    typed: string;
    unit: LengthUnit;
  }
  let { typed, unit }: Props = $props();
  let told = $state.raw<{ typed: string; mm: number } | null>(null);
  const shown = $derived(told !== null && told.typed === typed ? told.mm : null);

  // the server reads it, as it will when it is taken; only a pause in typing asks
  $effect(() => {
    const text = typed;
    if (text.trim() === "") return;
    const timer = setTimeout(async () => {
      const answer = await ask(client.GET("/api/v1/typed-length", { params: { query: { typed: text } } }));
      if (answer.kind === "done" && answer.value.value_mm !== null)
        told = { typed: text, mm: answer.value.value_mm };
    }, 150);
    return () => clearTimeout(timer);
  });
</script>

{#if shown !== null}<span>{length(shown, unit)} = {otherLength(shown, unit)}</span>{/if}
