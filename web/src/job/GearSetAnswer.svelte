<script lang="ts" module>
  import type { paths } from "../api/schema";

  export type Identity =
    paths["/api/v1/compute/gearset.identify"]["post"]["responses"]["200"]["content"]["application/json"];
</script>

<script lang="ts">
  import type { Work } from "../api/client";
  import { ratio } from "../lib/quantity";

  interface Props {
    identity: Identity;
    guess: number | null;
    ratios: Work["ratios"];
    counted: [number | null, number | null] | null;
    mayKeep: boolean;
    onkeep: (pinion: number, ring: number) => void;
  }
  let { identity, guess, ratios, counted, mayKeep, onkeep }: Props = $props();

  const CLASSES = {
    hunting: "Hunting: every tooth meets every other tooth; no timing marks.",
    partial: "Partly hunting: line up the timing marks.",
    non_hunting: "Non-hunting: the same teeth keep meeting; line up the timing marks.",
  };
  const ours = (pinion: number, ring: number) =>
    ratios.some((one) => one.pinion_teeth === pinion && one.ring_teeth === ring);
  // the family's own pairs first: they are what can be in this axle
  const shown = $derived(
    [...identity.candidates]
      .sort((a, b) => Number(ours(b.pinion_teeth, b.ring_teeth)) - Number(ours(a.pinion_teeth, a.ring_teeth)))
      .slice(0, 8),
  );
  const [pinion, ring] = $derived(counted ?? [null, null]);
</script>

<div role="status">
  <p class="figure text-5xl">
    {ratio(identity.ratio)}
    {#if identity.ratio_error !== null}<span class="quiet text-3xl">± {ratio(identity.ratio_error)}</span
      >{/if}
  </p>
  {#if identity.hunting}
    <p class="mt-1">{CLASSES[identity.hunting]}</p>
    <p class="quiet">
      The same two teeth meet again after {identity.ring_turns_to_repeat} turns of the ring gear.
    </p>
  {/if}
  {#if identity.guess_agrees === false && guess !== null}
    <p class="border-out bg-base-200 mt-3 border-l-4 px-3 py-2">
      <strong>The ratio of {guess} as told does not agree with the count.</strong> Trust the count, and check the
      other axle before you order anything.
    </p>
  {:else if identity.guess_agrees}
    <p class="mt-3">The ratio of {guess} as told agrees with the count.</p>
  {/if}
  {#if pinion !== null && ring !== null}
    {#if !ours(pinion, ring)}<p class="mt-3">
        This family's sheet does not list {pinion} / {ring}. Check the axle again.
      </p>{/if}
    {#if mayKeep}<button class="btn btn-primary mt-4" onclick={() => onkeep(pinion, ring)}
        >Save {pinion} / {ring}</button
      >{/if}
  {:else if shown.length === 0}
    <p class="mt-3">No usual pair of tooth counts is this close. Count the turns again.</p>
  {:else}
    <h2 class="mt-5 mb-1">Possible gear sets</h2>
    <table class="w-full max-w-xl">
      <thead
        ><tr class="quiet text-left"
          ><th scope="col">Pinion / ring</th><th scope="col">Ratio</th><th scope="col"
            >Difference from the count</th
          ><th scope="col"><span class="sr-only">Save</span></th></tr
        ></thead
      >
      <tbody>
        {#each shown as one, index (`${one.pinion_teeth}/${one.ring_teeth}`)}
          <tr class="border-line border-t">
            <td class="figure py-1 pr-3 text-xl">
              {one.pinion_teeth} / {one.ring_teeth}
              {#if ours(one.pinion_teeth, one.ring_teeth)}
                <span class="quiet block text-base">in this family</span>
              {/if}
            </td>
            <td class="pr-3">{ratio(one.ratio)}</td>
            <td>{one.error >= 0 ? "+" : "−"}{ratio(Math.abs(one.error))}</td>
            <td class="py-1 text-right">
              {#if mayKeep}
                <button
                  class={["btn", index === 0 ? "btn-primary" : "btn-plain"]}
                  onclick={() => onkeep(one.pinion_teeth, one.ring_teeth)}
                  >Save<span class="sr-only"> {one.pinion_teeth} / {one.ring_teeth}</span></button
                >
              {/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</div>
