<script lang="ts">
  import type { Job, Station } from "../api/client";
  import StationMark from "./StationMark.svelte";

  interface Props {
    job: Job;
    onpick: ((station: Station) => void) | null;
  }
  let { job, onpick }: Props = $props();

  const four = $derived(job.layout === "four_wheel_drive");
  // where each part stands in the drawing, seen from above, front to the left
  const spots = $derived<Record<Station["place"], [number, number]>>(
    four
      ? {
          engine: [205, 92],
          gearbox: [345, 92],
          transfer_case: [450, 112],
          front_shaft: [255, 152],
          rear_shaft: [650, 110],
          front_axle: [80, 152],
          rear_axle: [880, 110],
        }
      : {
          engine: [110, 110],
          gearbox: [275, 110],
          transfer_case: [0, 0],
          front_shaft: [0, 0],
          rear_shaft: [580, 110],
          front_axle: [0, 0],
          rear_axle: [880, 110],
        },
  );
  const worked = $derived(job.stations.find((station) => station.under_work)?.place);
</script>

{#snippet axle(x: number, y: number, here: boolean)}
  <g stroke-width={here ? 4 : 2}>
    <path d={`M${x - 7} 30h14V190h-14Z`} class="fill-base-100" />
    <rect x={x - 26} y="8" width="52" height="24" rx="5" class="fill-base-300" />
    <rect x={x - 26} y="188" width="52" height="24" rx="5" class="fill-base-300" />
    <path d={`M${x - 34} ${y}c0-20 16-34 36-34s32 14 32 34-12 34-32 34-36-14-36-34Z`} class="fill-base-100" />
  </g>
{/snippet}
{#snippet shaft(from: number, to: number, y: number)}
  <path d={`M${from} ${y - 5}H${to}v10H${from}Z`} class="fill-base-100" stroke-width="2" />
  <path
    d={`M${from - 9} ${y - 11}l18 22m0-22-18 22M${to - 9} ${y - 11}l18 22m0-22-18 22`}
    stroke-width="2.5"
  />
{/snippet}

<figure>
  <svg viewBox="0 0 960 220" class="block w-full" fill="none" stroke="currentColor" aria-hidden="true">
    {#if four}
      <path d="M150 62h105v60H150Z" class="fill-base-200" stroke-width="2" />
      <path d="M255 68h130l18 12v24l-18 12H255Z" class="fill-base-200" stroke-width="2" />
      <path d="M403 74h84v56l-20 40h-64Z" class="fill-base-200" stroke-width="2" />
      {@render axle(80, 152, worked === "front_axle")}
      {@render axle(880, 110, worked === "rear_axle")}
      {@render shaft(125, 394, 152)}
      {@render shaft(498, 836, 110)}
    {:else}
      <path d="M30 70h150v80H30Z" class="fill-base-200" stroke-width="2" />
      <path d="M180 76h150l26 20v28l-26 20H180Z" class="fill-base-200" stroke-width="2" />
      <path d="M60 8h52v24H60ZM60 188h52v24H60Z" class="fill-base-300" stroke-width="2" />
      {@render axle(880, 110, worked === "rear_axle")}
      {@render shaft(368, 836, 110)}
    {/if}
    {#each job.stations as station (station.place)}
      <g transform={`translate(${spots[station.place][0]} ${spots[station.place][1]})`}>
        <StationMark state={station.state} />
      </g>
    {/each}
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
              <span class={["block leading-tight", station.state === "fault" && "text-out"]}
                >{station.word}</span
              >
              {#if station.note}<span class="quiet block text-sm leading-tight">{station.note}</span>{/if}
            </span>
          </button>
        </li>
      {/each}
    </ul>
  </figcaption>
</figure>
