<script lang="ts">
  import type { Bench } from "../../api/client";

  interface Props {
    place: Bench["shim_place"];
  }
  let { place }: Props = $props();
  const deeper = $derived(place !== "under_cartridge_flange");
  /** where the shim lies, above and below the stem */
  const shim = $derived(
    {
      under_head: { x: 223, y: 40, high: 22 },
      behind_cup: { x: 181, y: 26, high: 13 },
      under_cartridge_flange: { x: 62, y: 14, high: 26 },
    }[place],
  );
</script>

<figure>
  <svg
    viewBox="0 0 390 178"
    class="block w-full max-w-md"
    role="img"
    aria-label={`Section through the pinion, ring gear axis on the right. A thicker shim moves the pinion ${deeper ? "toward the ring gear axis: deeper" : "away from the ring gear axis: shallower"}.`}
  >
    <g fill="none" stroke="currentColor" stroke-width="1.8">
      <!-- housing, above and below -->
      <path d="M70 4H300V14H240V26H187V40H120V26H70Z" class="fill-base-200" />
      <path d="M70 150H300V140H240V128H187V114H120V128H70Z" class="fill-base-200" />
      {#if place === "under_cartridge_flange"}
        <path d="M48 14h14v26H48zM48 114h14v26H48z" class="fill-base-300" />
        <path d="M68 26h172v13H68zM68 115h172v13H68z" class="fill-base-300" />
      {/if}
      <!-- pinion: stem and head -->
      <path d="M20 62H228V38H270L284 30V124L270 116H228V92H20Z" class="fill-base-100" />
      <path d="M244 36v82M258 37v80" opacity=".5" />
      <!-- bearings -->
      <path d="M188 26h34v36h-34zM188 92h34v36h-34zM86 40h28v22H86zM86 92h28v22H86z" class="fill-base-100" />
      <path d="m188 44 34 8M188 110l34-8m-136-46 28 4m-28 40 28-4" />
      <!-- ring gear axis -->
      <path d="M350 8v150" stroke-dasharray="14 4 3 4" />
      <path d="M284 77h66M284 71v12M350 71v12" stroke-width="1.4" />
      <path d="M20 77H350" stroke-dasharray="14 4 3 4" opacity=".45" />
    </g>
    <rect x={shim.x} y={shim.y} width="6" height={shim.high} class="fill-base-content" />
    <rect x={shim.x} y={154 - shim.y - shim.high} width="6" height={shim.high} class="fill-base-content" />
    <g class="label-text" fill="currentColor" font-size="15">
      <text x="317" y="66" text-anchor="middle">depth</text>
      <text x="350" y="174" text-anchor="middle">ring gear axis</text>
      <text x="150" y="172" text-anchor="middle"
        >{deeper ? "thicker: this way →" : "← thicker: this way"}</text
      >
    </g>
  </svg>
  <figcaption class="quiet text-sm">
    Black: the depth shim. {deeper
      ? "A thicker shim moves the pinion toward the ring gear axis: deeper."
      : "A thicker shim moves the pinion away from the ring gear axis: shallower."}
  </figcaption>
</figure>
