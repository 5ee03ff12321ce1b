<script lang="ts">
  import type { Reading, Trial } from "../api/client";
  import LastFew from "../lib/LastFew.svelte";
  import { degrees, length, when, type LengthUnit } from "../lib/quantity";

  interface Props {
    trial: Trial;
    unit: LengthUnit;
    onstrike: ((reading: Reading) => void) | null;
  }
  let { trial, unit, onstrike }: Props = $props();
  const UNITS: Record<string, string> = { hundredths_mm: "1/100 mm", thou: "thou", mm: "mm" };
  const bare = (typed: string) => /^[\d.,]+$/.test(typed);
  const WORDS = { under: "under the window", over: "over the window", inside: "inside", unjudged: "" };
</script>

<details>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold"
    >All readings of trial {trial.number}, as entered</summary
  >
  <LastFew all={trial.readings} few={8} what="readings">
    {#snippet children(readings)}
      <table class="w-full">
        <thead class="quiet text-left">
          <tr
            ><th scope="col">Position</th><th scope="col">As entered</th><th scope="col">Reading</th><th
              scope="col">Counts</th
            ><th scope="col" class="max-sm:hidden">Read by</th><th scope="col"
              ><span class="sr-only">Strike out</span></th
            ></tr
          >
        </thead>
        <tbody>
          {#each readings as reading (reading.id)}
            <tr class="border-line border-t">
              <td>{degrees(reading.angle_deg)}</td>
              <td class={reading.struck ? "line-through" : ""}
                >{reading.typed}{bare(reading.typed) ? ` ${UNITS[reading.unit] ?? reading.unit}` : ""}</td
              >
              <td class={["figure text-lg", reading.struck && "line-through"]}
                >{length(reading.value_mm, unit)}</td
              >
              <td>{reading.struck ? `struck out: ${reading.struck.reason}` : WORDS[reading.standing]}</td>
              <td class="max-sm:hidden">{reading.by_name}, {when(reading.at)}</td>
              <td class="text-right">
                {#if onstrike && !reading.struck}
                  <button class="btn btn-plain btn-sm min-h-touch" onclick={() => onstrike(reading)}>
                    Strike out<span class="sr-only"> {reading.typed} at {reading.angle_deg} degrees</span>
                  </button>
                {/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/snippet}
  </LastFew>
</details>
