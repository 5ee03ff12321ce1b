<script lang="ts">
  import type { Unit } from "./units";

  interface Props {
    label: string;
    /** inside value; null is “not asked” where that is allowed */
    value: number | null;
    min: number;
    max: number;
    step?: number;
    unit?: Unit;
    optional?: boolean;
    onturn: (value: number | null) => void;
  }
  let { label, value, min, max, step = 1, unit, optional = false, onturn }: Props = $props();
  const per = $derived(unit?.per ?? 1);
  const digits = $derived(unit?.digits ?? (step < 1 ? 2 : 0));
  const shown = $derived(value === null ? "" : Number((value * per).toFixed(digits)));
  const id = $props.id();

  function typed(event: Event) {
    const { value: text } = event.currentTarget as HTMLInputElement;
    if (text.trim() === "") {
      if (optional) onturn(null);
      return;
    }
    const found = Number(text.replace(",", ".")) / per;
    if (Number.isFinite(found)) onturn(found);
  }
</script>

<div class="grid grid-cols-[minmax(0,1fr)_7.5rem] items-center gap-x-3">
  <label for={id} class="label-text">{label}</label>
  <span class="flex items-baseline gap-1">
    <input
      {id}
      class="input min-w-0 text-right"
      inputmode="decimal"
      value={shown}
      onchange={typed}
      autocomplete="off"
    />
    <span class="quiet w-9 shrink-0 text-sm">{unit?.name ?? ""}</span>
  </span>
  <input
    class="slider col-span-2"
    type="range"
    aria-label={`${label}, slider`}
    {min}
    {max}
    {step}
    value={value ?? min}
    oninput={(event) => onturn(event.currentTarget.valueAsNumber)}
  />
</div>
