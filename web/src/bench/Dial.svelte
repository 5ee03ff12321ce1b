<script lang="ts">
  import type { Bench, Trial } from "../api/client";
  import { figure, figureUnit, length, type LengthUnit } from "../lib/quantity";
  import { at, FACE, loop, scale, teeth } from "./dial";
  import type { Waiting } from "./outbox";

  interface Props {
    bench: Bench;
    trial: Trial;
    waiting: Waiting[];
    position: number | null;
    /** nothing else on the screen comes first */
    next?: boolean;
    unit: LengthUnit;
    onpick: ((angle: number) => void) | null;
  }
  let { bench, trial, waiting, position, next = true, unit, onpick }: Props = $props();

  const live = $derived(trial.readings.filter((reading) => reading.struck === null));
  // one figure a position: the latest, and none where a new one is on its way
  const figures = $derived(
    live.filter(
      (reading, index) =>
        !live.slice(index + 1).some((later) => later.angle_deg === reading.angle_deg) &&
        !waiting.some((one) => one.angle_deg === reading.angle_deg),
    ),
  );
  const struck = $derived(trial.readings.filter((reading) => reading.struck !== null));
  const face = $derived(
    scale(
      bench.min_mm,
      bench.max_mm,
      live.map((reading) => reading.value_mm),
    ),
  );
  const window = $derived(bench.min_mm !== null && bench.max_mm !== null);
  const once = $derived(trial.assessment?.once_per_turn ?? null);
  const fit = $derived.by(() => {
    const mean = trial.assessment?.mean_mm;
    if (once === null || mean === undefined) return null;
    return loop((angle) =>
      face.radius(mean + once.amplitude_mm * Math.cos(((angle - once.high_at_deg) * Math.PI) / 180)),
    );
  });
  const told = $derived(
    live.length === 0
      ? "No readings yet."
      : live
          .map(
            (reading) =>
              `${Math.round(reading.angle_deg * 10) / 10} degrees: ${length(reading.value_mm, unit)}`,
          )
          .join("; "),
  );
</script>

<figure>
  <svg
    viewBox="-240 -236 480 472"
    class="mx-auto block w-full max-w-[30rem]"
    role="img"
    aria-label={`Backlash round the ring gear. ${told}`}
  >
    <g fill="none" stroke="currentColor" opacity=".45">
      <path d={teeth(bench.slope?.ring_teeth ?? 40)} stroke-width="2" />
      <circle r={FACE.toe} stroke-width="1.2" />
      <circle r={FACE.heel} stroke-width="1.2" />
    </g>
    {#if window}
      <circle
        r={(face.radius(face.low) + face.radius(face.high)) / 2}
        fill="none"
        class="stroke-base-300"
        stroke-width={face.radius(face.high) - face.radius(face.low)}
      />
      <circle r={face.radius(face.low)} fill="none" stroke="currentColor" stroke-width="1.5" />
      <circle r={face.radius(face.high)} fill="none" stroke="currentColor" stroke-width="1.5" />
    {/if}
    {#if fit}<path d={fit} fill="none" stroke="currentColor" stroke-width="1.8" stroke-dasharray="6 5" />{/if}
    {#each bench.positions_deg as angle (angle)}
      {@const inner = at(angle, 24)}
      {@const outer = at(angle, FACE.toe)}
      <path
        d={`M${inner.x} ${inner.y}L${outer.x} ${outer.y}`}
        stroke="currentColor"
        stroke-width="1"
        opacity=".28"
      />
    {/each}
    {#if position !== null}
      {@const a = at(position, FACE.toe - 6)}
      {@const b = at(position - 5.5, FACE.heel + 5)}
      {@const c = at(position + 5.5, FACE.heel + 5)}
      <path
        d={`M${a.x} ${a.y}L${b.x} ${b.y}L${c.x} ${c.y}Z`}
        class={["stroke-base-content", next ? "fill-next" : "fill-base-100"]}
        stroke-width="1.5"
      />
    {/if}
    {#each struck as reading (reading.id)}
      {@const p = at(reading.angle_deg + 4, face.radius(reading.value_mm))}
      <path
        d={`M${p.x - 5} ${p.y - 5}l10 10m0-10-10 10`}
        stroke="currentColor"
        stroke-width="2"
        opacity=".6"
      />
    {/each}
    {#each live as reading (reading.id)}
      {@const p = at(reading.angle_deg, face.radius(reading.value_mm))}
      {#if reading.standing === "inside" || reading.standing === "unjudged"}
        <rect x={p.x - 6} y={p.y - 6} width="12" height="12" fill="currentColor" />
      {:else}
        <path d={`M${p.x - 8} ${p.y - 8}l16 16m0-16-16 16`} class="stroke-out" stroke-width="4.5" />
      {/if}
    {/each}
    {#each figures as reading (reading.id)}
      {@const t = at(reading.angle_deg, FACE.label)}
      <text x={t.x} y={t.y + 8} text-anchor="middle" class="figure" fill="currentColor" font-size="25"
        >{figure(reading.value_mm, unit)}</text
      >
    {/each}
    {#each waiting as one (one.client_id)}
      {@const t = at(one.angle_deg, FACE.label)}
      <text
        x={t.x}
        y={t.y + 8}
        text-anchor="middle"
        class="figure"
        fill="currentColor"
        font-size="20"
        opacity=".75">{one.typed}…</text
      >
    {/each}
    <text y="-2" text-anchor="middle" class="figure" fill="currentColor" font-size="20"
      >{figureUnit(unit)}</text
    >
  </svg>
  {#if onpick}
    <fieldset class="mt-1 flex flex-wrap justify-center gap-1">
      <legend class="quiet mb-1 w-full text-center text-sm"
        >Position to measure, degrees clockwise from the top</legend
      >
      {#each bench.positions_deg as angle (angle)}
        <button
          type="button"
          class={[
            "figure min-h-touch min-w-touch border-2 px-1 text-lg",
            angle === position ? "border-base-content bg-base-content text-base-100" : "border-line",
          ]}
          aria-pressed={angle === position}
          onclick={() => onpick(angle)}>{angle}°</button
        >
      {/each}
    </fieldset>
  {/if}
</figure>
