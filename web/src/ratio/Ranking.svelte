<script lang="ts">
  import type { Schemas } from "../api/client";
  import { ratio as ratioWord } from "../lib/quantity";
  import type { RatioDesk } from "./desk.svelte";

  interface Props {
    on: RatioDesk;
    chosen: Schemas["Chosen"];
    may: boolean;
    later: boolean;
  }
  let { on, chosen, may, later }: Props = $props();
  const NAMES: Record<string, string> = {
    cruise: "Cruise rpm",
    hold: "Grade held",
    start: "Starting",
    crawl: "Crawl",
    upshift: "Upshift",
    top_speed: "Top speed",
    pinion: "Pinion",
    parts: "Parts",
  };
  const here = $derived(on.knobs?.now.gearbox ?? 0);
  const rows = $derived(
    chosen.choices
      .map((one, place) => ({ one, place }))
      .filter(({ one }) => later || one.gearbox_index === here)
      .slice(0, 20),
  );
</script>

<div class="relative overflow-x-auto" tabindex="-1">
  <table class="w-full min-w-[40rem]">
    <thead
      ><tr class="quiet text-left"
        ><th scope="col">Axle</th>{#if later}<th scope="col">Gearbox</th>{/if}<th scope="col">Fits the use</th
        ><th scope="col">By its terms</th><th scope="col"><span class="sr-only">Put beside</span></th></tr
      ></thead
    >
    <tbody>
      {#each rows as { one } (one.gearbox_index + "/" + one.axle_index)}
        {@const pairing = { gearbox: one.gearbox_index, axle: one.axle_index }}
        <tr class="border-line border-t align-top">
          <th scope="row" class="py-1.5 pr-3 text-left"
            ><span class="figure text-xl">{one.pinion_teeth}/{one.ring_teeth}</span>
            <span class="quiet block text-sm font-normal">{ratioWord(one.ratio)}</span></th
          >
          {#if later}<td class="py-1.5 pr-3">{one.gearbox}</td>{/if}
          <td class="py-1.5 pr-3 whitespace-nowrap">
            <span class="figure text-xl">{Math.round(100 * one.score)} %</span>
            {#if one.dominated_by !== null}
              {@const better = chosen.choices[one.dominated_by]}
              <span class="quiet block text-sm whitespace-normal"
                >{better
                  ? `${better.pinion_teeth}/${better.ring_teeth}${better.gearbox_index === one.gearbox_index ? "" : `, ${better.gearbox}`} is as good in all and better in some`
                  : "another is as good in all and better in some"}</span
              >
            {/if}
          </td>
          <td class="py-1.5 pr-3">
            <ul class="flex flex-wrap gap-x-4 gap-y-0.5 text-sm">
              {#each one.terms as term (term.name)}
                <li class="whitespace-nowrap" title={term.text}>
                  {NAMES[term.name]} <strong>{Math.round(100 * term.score)}</strong>
                </li>
              {/each}
            </ul>
            <details>
              <summary class="cursor-pointer py-1 text-sm underline underline-offset-3">Why</summary>
              <ul class="list-disc pl-5 text-sm">
                {#each one.terms as term (term.name)}<li>{term.text}</li>{/each}
              </ul>
            </details>
          </td>
          <td class="py-1.5">
            {#if may}
              {#if on.isBeside(pairing)}<span class="quiet">stands beside</span>
              {:else}
                <button
                  class="btn btn-plain btn-sm"
                  disabled={(on.knobs?.candidates.length ?? 0) >= 4}
                  onclick={() => on.beside(pairing)}
                  >Put beside<span class="sr-only">
                    {one.pinion_teeth}/{one.ring_teeth}, {one.gearbox}</span
                  ></button
                >
              {/if}
            {/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>
