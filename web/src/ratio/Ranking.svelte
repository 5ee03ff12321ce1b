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
  const TERM_UNITS: Record<string, string> = { parts: "" };
  /** A figure with how far inside what was asked it is: "1 822 rpm (+22)". */
  function figure(term: Schemas["Term"]): string {
    if (term.value === null) return "any";
    const places = term.unit === "%" || term.unit === "km/h" ? 1 : 0;
    const value = `${term.value.toFixed(places)} ${TERM_UNITS[term.name] ?? term.unit}`;
    if (term.margin === null || term.margin === undefined) return value;
    return `${value} (${term.margin < 0 ? "−" : "+"}${Math.abs(term.margin).toFixed(places)})`;
  }
  const here = $derived(on.knobs?.now.gearbox ?? 0);
  const rows = $derived(
    chosen.choices
      .map((one, place) => ({ one, place }))
      .filter(({ one }) => later || one.gearbox_index === here)
      .slice(0, 20),
  );
</script>

<ol class="grid">
  {#each rows as { one } (one.gearbox_index + "/" + one.axle_index)}
    {@const pairing = { gearbox: one.gearbox_index, axle: one.axle_index }}
    {@const better = one.dominated_by === null ? undefined : chosen.choices[one.dominated_by]}
    <li
      class="border-line grid grid-cols-[5.5rem_minmax(0,1fr)_auto] items-start gap-x-4 border-t py-2 lg:grid-cols-[5.5rem_9rem_minmax(0,1fr)_auto]"
    >
      <p>
        <span class="figure text-xl">{one.pinion_teeth}/{one.ring_teeth}</span>
        <span class="quiet block text-sm">{ratioWord(one.ratio)}</span>
      </p>
      <p>
        <span class="figure text-xl">{Math.round(100 * one.score)} %</span>
        <span class="quiet text-sm">fit for the use</span>
        {#if later}<span class="block text-sm">{one.gearbox}</span>{/if}
        {#if better && (later || better.gearbox_index === here)}
          <span class="quiet block text-sm"
            >{better.pinion_teeth}/{better.ring_teeth}{better.gearbox_index === one.gearbox_index
              ? ""
              : `, ${better.gearbox}`} is as good in everything and better in something</span
          >
        {/if}
      </p>
      <div class="max-lg:order-last max-lg:col-span-3">
        <ul class="flex flex-wrap gap-x-4 gap-y-0.5 text-sm">
          {#each one.terms as term (term.name)}
            {#if term.name !== "parts"}<li class="whitespace-nowrap" title={term.text}>
                {NAMES[term.name]}
                <strong class={[term.score < 1 && "text-out"]}>{figure(term)}</strong>
              </li>{:else if term.score < 1}<li>{term.text}</li>{/if}
          {/each}
        </ul>
        <details>
          <summary class="min-h-touch cursor-pointer py-2 text-sm underline underline-offset-3">Why</summary>
          <ul class="list-disc pl-5 text-sm">
            {#each one.terms as term (term.name)}<li>{term.text}</li>{/each}
          </ul>
        </details>
      </div>
      {#if may}
        {#if on.isBeside(pairing)}<span class="quiet">compared</span>
        {:else}
          <button
            class="btn btn-plain btn-sm"
            disabled={(on.knobs?.candidates.length ?? 0) >= 4}
            onclick={() => on.beside(pairing)}
            >Compare<span class="sr-only"> {one.pinion_teeth}/{one.ring_teeth}, {one.gearbox}</span></button
          >
        {/if}
      {/if}
    </li>
  {/each}
</ol>
