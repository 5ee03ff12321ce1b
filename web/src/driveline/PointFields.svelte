<script lang="ts">
  import type { Unit } from "../lib/units";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    size: Unit;
  }
  let { on, inputs, size }: Props = $props();
  const AXES = ["back", "left", "up"] as const;
  const points = $derived(inputs.readings.points_mm ?? []);
</script>

<table class="w-full">
  <caption class="label-text text-left">Joint centres, {size.name}</caption>
  <thead
    ><tr class="quiet text-left text-sm"
      ><th scope="col"><span class="sr-only">Joint</span></th>{#each AXES as axis (axis)}<th scope="col"
          >{axis}</th
        >{/each}</tr
    ></thead
  >
  <tbody>
    {#each points as point, joint (joint)}
      <tr>
        <th scope="row" class="figure pr-2 text-left">{joint + 1}</th>
        {#each AXES as axis, index (axis)}
          <td class="p-0.5"
            ><input
              class="input min-h-touch w-full px-2"
              inputmode="text"
              aria-label={`Joint ${joint + 1}, ${axis}`}
              value={Number(((point[index] ?? 0) * size.per).toFixed(size.digits))}
              onchange={(event) => {
                const found = Number(event.currentTarget.value.replace(",", ".")) / size.per;
                if (Number.isFinite(found)) on.set(() => (point[index] = found));
              }}
            /></td
          >
        {/each}
      </tr>
    {/each}
  </tbody>
</table>
