<script lang="ts">
  import type { Schemas } from "../api/client";

  type Line = Schemas["FastenerIn"];
  interface Props {
    lines: Line[];
    free: Schemas["FastenerPlaceOut"][];
    label: (place: string) => string;
    /** whether a field was refused, by its path */
    at: (path: string) => boolean;
    onchange: (lines: Line[]) => void;
  }
  let { lines, free, label, at, onchange }: Props = $props();
  const change = (index: number, part: Partial<Line>) =>
    onchange(lines.map((one, other) => (other === index ? { ...one, ...part } : one)));
  const number = (event: Event) => {
    const field = event.currentTarget as HTMLInputElement;
    return Number.isNaN(field.valueAsNumber) ? null : field.valueAsNumber;
  };
  const text = (event: Event) => (event.currentTarget as HTMLInputElement).value;
  const FLAGS = [
    ["oiled", "thread oiled"],
    ["one_time_use", "new every time"],
    ["left_hand", "left-hand"],
  ] as const;
</script>

<fieldset class="grid gap-2">
  <legend class="label-text">Fasteners</legend>
  {#each lines as line, index (line.place)}
    {@const what = label(line.place)}
    <div class="border-line grid gap-2 border-t pt-2">
      <div class="grid items-end gap-2 sm:grid-cols-[minmax(0,1.4fr)_5rem_7rem_7rem_minmax(0,1fr)_auto]">
        <span class="self-center">{what}</span>
        <label class="grid"
          ><span class="quiet text-sm">Count</span><input
            class="input"
            type="number"
            min="1"
            max="200"
            required
            aria-label={`Count: ${what}`}
            value={line.count}
            oninput={(event) => change(index, { count: number(event) ?? 1 })}
          /></label
        >
        <label class="grid"
          ><span class="quiet text-sm">Torque (Nm)</span><input
            class="input"
            type="number"
            step="any"
            aria-label={`Torque: ${what}`}
            aria-invalid={at(`fasteners[${index}].torque_nm`)}
            value={line.torque_nm}
            oninput={(event) => change(index, { torque_nm: number(event) })}
          /></label
        >
        <label class="grid"
          ><span class="quiet text-sm">then angle (°)</span><input
            class="input"
            type="number"
            step="any"
            aria-label={`Angle: ${what}`}
            value={line.angle_deg}
            oninput={(event) => change(index, { angle_deg: number(event) })}
          /></label
        >
        <label class="grid"
          ><span class="quiet text-sm">Source</span><input
            class="input w-full"
            maxlength="200"
            aria-label={`Source: ${what}`}
            aria-invalid={at(`fasteners[${index}].source_note`)}
            value={line.source_note}
            oninput={(event) => change(index, { source_note: text(event) })}
          /></label
        >
        <button
          type="button"
          class="btn btn-plain btn-sm min-h-touch"
          onclick={() => onchange(lines.filter((one) => one !== line))}
          >Remove<span class="sr-only">: {what}</span></button
        >
      </div>
      <div class="flex flex-wrap items-end gap-x-4 gap-y-2">
        <label class="grid"
          ><span class="quiet text-sm">Layout</span>
          <select
            class="select"
            aria-label={`Layout: ${what}`}
            value={line.layout}
            onchange={(event) => change(index, { layout: event.currentTarget.value as Line["layout"] })}
          >
            <option value="circle">round a circle</option>
            <option value="row">in a row</option>
          </select></label
        >
        <label class="grid"
          ><span class="quiet text-sm">Thread</span><input
            class="input w-36"
            maxlength="40"
            aria-label={`Thread: ${what}`}
            value={line.thread}
            oninput={(event) => change(index, { thread: text(event) })}
          /></label
        >
        <label class="grid"
          ><span class="quiet text-sm">Locked by</span><input
            class="input w-44"
            maxlength="80"
            aria-label={`Locked by: ${what}`}
            value={line.locked_by}
            oninput={(event) => change(index, { locked_by: text(event) })}
          /></label
        >
        {#each FLAGS as [name, word] (name)}
          <label class="min-h-touch inline-flex items-center gap-2"
            ><input
              type="checkbox"
              class="checkbox"
              checked={line[name]}
              aria-label={`${word}: ${what}`}
              onchange={(event) => change(index, { [name]: event.currentTarget.checked })}
            />
            {word}</label
          >
        {/each}
      </div>
    </div>
  {/each}
  <select
    class="select w-full max-w-md"
    aria-label="Add fasteners"
    value=""
    onchange={(event) => {
      const place = event.currentTarget.value as Line["place"];
      onchange([
        ...lines,
        {
          place,
          count: 1,
          layout: "circle",
          torque_nm: null,
          angle_deg: null,
          thread: "",
          oiled: false,
          one_time_use: false,
          left_hand: false,
          locked_by: "",
          source_note: "",
        },
      ]);
      event.currentTarget.value = "";
    }}
  >
    <option value="">Add fasteners</option>
    {#each free as one (one.place)}<option value={one.place}>{one.label}</option>{/each}
  </select>
</fieldset>
