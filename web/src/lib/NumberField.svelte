<script lang="ts">
  import { typedNumber } from "./typed-number";
  import type { Unit } from "./units";

  interface Props {
    label: string;
    /** inside value; null is “not given” where that is allowed */
    value: number | null | undefined;
    unit?: Unit;
    digits?: number;
    optional?: boolean;
    hint?: string;
    ontyped: (value: number | null) => void;
  }
  let { label, value, unit, digits, optional = false, hint = "", ontyped }: Props = $props();
  const per = $derived(unit?.per ?? 1);
  const places = $derived(digits ?? unit?.digits ?? 1);
  const shown = $derived(
    value === null || value === undefined ? "" : String(Number((value * per).toFixed(places))),
  );
  let wrong = $state("");
  const id = $props.id();

  function typed(event: Event) {
    const text = (event.currentTarget as HTMLInputElement).value.trim();
    if (text === "") {
      wrong = optional ? "" : "Enter a number.";
      if (optional) ontyped(null);
      return;
    }
    const found = typedNumber(text);
    wrong = found === null ? `“${text}” is not a number.` : "";
    if (found !== null) ontyped(found / per);
  }
</script>

<div class="grid content-start gap-1">
  <label for={id} class="label-text">{label}{unit ? `, ${unit.name}` : ""}</label>
  <input
    {id}
    class={["input min-h-touch w-full", wrong && "border-out"]}
    inputmode="text"
    autocomplete="off"
    value={shown}
    aria-describedby={wrong || hint ? `${id}-said` : undefined}
    aria-invalid={wrong !== ""}
    onchange={typed}
  />
  {#if wrong || hint}<span id={`${id}-said`} class={["text-sm", wrong ? "text-out font-semibold" : "quiet"]}
      >{wrong || hint}</span
    >{/if}
</div>
