<script lang="ts">
  import type { Job, Station } from "../api/client";
  import StationMark from "./StationMark.svelte";

  interface Props {
    job: Job;
    onpick: ((station: Station) => void) | null;
  }
  let { job, onpick }: Props = $props();

  const has = (place: Station["place"]) => job.stations.some((one) => one.place === place);
  /** both ends are drawn when something drives at the front */
  const four = $derived(has("front_axle"));
  // where each part stands in the drawing, seen from above, front to the left
  const spots = $derived<Record<Station["place"], [number, number]>>(
    four
      ? {
          vehicle: [0, 0],
          engine: [205, 68],
          gearbox: [345, 68],
          transfer_case: [450, 88],
          front_shaft: [255, 124],
          rear_shaft: [650, 82],
          front_axle: [80, 124],
          rear_axle: [880, 82],
        }
      : {
          vehicle: [0, 0],
          engine: [125, 82],
          gearbox: [285, 82],
          transfer_case: [0, 0],
          front_shaft: [0, 0],
          rear_shaft: [600, 82],
          front_axle: [0, 0],
          rear_axle: [880, 82],
        },
  );
  const worked = $derived(job.stations.filter((station) => station.under_work).map((one) => one.place));
</script>

{#snippet wheels(x: number)}
  <rect x={x - 26} y="2" width="52" height="20" rx="4" class="fill-base-300" />
  <rect x={x - 26} y="142" width="52" height="20" rx="4" class="fill-base-300" />
{/snippet}
{#snippet axle(x: number, y: number, here: boolean)}
  <g stroke-width={here ? 3.5 : 1.8}>
    <path d={`M${x - 6} 22h12V142h-12Z`} class="fill-base-100" />
    {@render wheels(x)}
    <path d={`M${x - 32} ${y}c0-17 14-29 34-29s30 12 30 29-10 29-30 29-34-12-34-29Z`} class="fill-base-100" />
  </g>
{/snippet}
{#snippet shaft(from: number, to: number, y: number)}
  <path d={`M${from} ${y - 4.5}H${to}v9H${from}Z`} class="fill-base-100" stroke-width="1.8" />
  <path d={`M${from - 7} ${y - 9}l14 18m0-18-14 18M${to - 7} ${y - 9}l14 18m0-18-14 18`} stroke-width="2.2" />
{/snippet}

<figure>
  <svg viewBox="0 0 960 164" class="block w-full" fill="none" stroke="currentColor" aria-hidden="true">
    <g stroke-width="1.8">
      {#if four}
        <path d="M150 42h105v52H150Z" class="fill-base-200" />
        <path d="M255 47h130l18 10v22l-18 10H255Z" class="fill-base-200" />
        {#if has("transfer_case")}<path d="M403 52h84v50l-20 38h-64Z" class="fill-base-200" />{/if}
        {@render axle(80, 124, worked.includes("front_axle"))}
        {#if has("rear_axle")}{@render axle(880, 82, worked.includes("rear_axle"))}{/if}
        {#if has("front_shaft")}{@render shaft(121, 394, 124)}{/if}
        {#if has("rear_shaft")}{@render shaft(has("transfer_case") ? 496 : 412, 840, 82)}{/if}
      {:else}
        <path d="M86 22v26m0 68v26" stroke-dasharray="5 5" />
        {@render wheels(86)}
        <path d="M48 48h152v68H48Z" class="fill-base-200" />
        <path d="M200 53h140l26 17v24l-26 17H200Z" class="fill-base-200" />
        {@render axle(880, 82, worked.includes("rear_axle"))}
        {@render shaft(376, 840, 82)}
      {/if}
    </g>
    {#each job.stations as station (station.place)}
      <g transform={`translate(${spots[station.place][0]} ${spots[station.place][1]})`}>
        <StationMark state={station.state} />
      </g>
    {/each}
    {#if job.match?.verdict === "out"}
      <path d="M500 150H760M618 140v20M642 140v20" class="stroke-out" stroke-width="4" />
    {/if}
  </svg>
  <figcaption>
    <ul class="flex flex-col sm:flex-row sm:flex-wrap sm:gap-x-2" aria-label="Driveline, front to rear">
      {#each job.stations as station (station.place)}
        <li class="min-w-0 sm:grow sm:basis-28">
          <button
            type="button"
            class="min-h-touch enabled:hover:bg-base-200 flex w-full items-start gap-2 p-1.5 text-left"
            disabled={onpick === null}
            onclick={() => onpick?.(station)}
          >
            <svg
              width="24"
              height="24"
              viewBox="-12.5 -12.5 25 25"
              class="mt-0.5 shrink-0"
              aria-hidden="true"
            >
              <StationMark state={station.state} />
            </svg>
            <span class="min-w-0">
              <span class="figure block text-lg leading-tight">{station.label}</span>
              <span
                class={[
                  "block leading-tight",
                  station.state === "fault" && "text-out",
                  station.state === "not_looked_at" && "lg:sr-only",
                ]}>{station.word}</span
              >
              {#if station.note}<span class="quiet block text-sm leading-tight">{station.note}</span>{/if}
            </span>
          </button>
        </li>
      {/each}
    </ul>
  </figcaption>
</figure>
