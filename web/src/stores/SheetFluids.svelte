<script lang="ts">
  import type { Schemas } from "../api/client";

  type Line = Schemas["FluidIn"];
  interface Props {
    lines: Line[];
    /** whether a field was refused, by its path */
    at: (path: string) => boolean;
    onchange: (lines: Line[]) => void;
  }
  let { lines, at, onchange }: Props = $props();
  const change = (index: number, part: Partial<Line>) =>
    onchange(lines.map((one, other) => (other === index ? { ...one, ...part } : one)));
  const number = (event: Event) => {
    const field = event.currentTarget as HTMLInputElement;
    return Number.isNaN(field.valueAsNumber) ? null : field.valueAsNumber;
  };
  const text = (event: Event) => (event.currentTarget as HTMLInputElement).value;
</script>

<fieldset class="grid gap-2">
  <legend class="label-text">Oil</legend>
  {#each lines as line, index (index)}
    <div
      class="border-line grid items-end gap-2 border-t pt-2 sm:grid-cols-[minmax(0,1.4fr)_6rem_8rem_8rem_minmax(0,1fr)_auto]"
    >
      <label class="grid"
        ><span class="quiet text-sm">Kind of oil</span><input
          class="input w-full"
          maxlength="80"
          required
          aria-label={`Kind of oil ${index + 1}`}
          aria-invalid={at(`fluids[${index}].oil`)}
          value={line.oil}
          oninput={(event) => change(index, { oil: text(event) })}
        /></label
      >
      <label class="grid"
        ><span class="quiet text-sm">Fill (l)</span><input
          class="input"
          type="number"
          step="any"
          required
          aria-label={`Fill of oil ${index + 1}`}
          aria-invalid={at(`fluids[${index}].litres`)}
          value={line.litres}
          oninput={(event) => change(index, { litres: number(event) ?? 0 })}
        /></label
      >
      <label class="grid"
        ><span class="quiet text-sm">Below plug (mm)</span><input
          class="input"
          type="number"
          step="any"
          aria-label={`Level below the plug of oil ${index + 1}`}
          value={line.level_below_plug_mm}
          oninput={(event) => change(index, { level_below_plug_mm: number(event) ?? 0 })}
        /></label
      >
      <label class="grid"
        ><span class="quiet text-sm">Modifier (ml)</span><input
          class="input"
          type="number"
          step="any"
          aria-label={`Friction modifier of oil ${index + 1}`}
          aria-invalid={at(`fluids[${index}].modifier_ml`)}
          value={line.modifier_ml}
          oninput={(event) => change(index, { modifier_ml: number(event) })}
        /></label
      >
      <label class="grid"
        ><span class="quiet text-sm">Source</span><input
          class="input w-full"
          maxlength="200"
          aria-label={`Source of oil ${index + 1}`}
          aria-invalid={at(`fluids[${index}].source_note`)}
          value={line.source_note}
          oninput={(event) => change(index, { source_note: text(event) })}
        /></label
      >
      <button
        type="button"
        class="btn btn-plain btn-sm min-h-touch"
        onclick={() => onchange(lines.filter((one) => one !== line))}
        >Remove<span class="sr-only"> oil {index + 1}</span></button
      >
    </div>
  {/each}
  <button
    type="button"
    class="btn btn-plain justify-self-start"
    onclick={() =>
      onchange([
        ...lines,
        {
          oil: "",
          litres: 1,
          level_below_plug_mm: 0,
          modifier_ml: null,
          modifier: "",
          source_note: "",
        },
      ])}>Add an oil</button
  >
</fieldset>
