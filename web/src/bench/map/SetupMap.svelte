<script lang="ts">
  import type { Advice, Bench, Contact, Proposal } from "../../api/client";
  import { figure, figureUnit, length, signed, type LengthUnit } from "../../lib/quantity";
  import type { BenchOnScreen } from "../bench.svelte";
  import FlankDrawing from "../pattern/FlankDrawing.svelte";
  import { MapFrame, type Place } from "./map";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    advice: Advice | null;
    unit: LengthUnit;
  }
  let { on, bench, advice, unit }: Props = $props();
  const chart = $derived(advice?.chart ?? null);
  const frame = $derived(chart ? new MapFrame(chart) : null);
  const estimate = $derived(advice?.advice?.estimate ?? null);
  const move = $derived<Proposal | null>(
    advice?.kind === "finished" ? null : (advice?.advice?.proposals[0] ?? null),
  );
  let looked = $state.raw<Place | null>(null);
  const place = $derived<Place | null>(looked ?? estimate);
  let shown = $state.raw<Contact | null>(null);
  let svg: SVGSVGElement | undefined = $state();
  /** the margin above the map that is not needed */
  const TOP = 44;
  const FLANKS = [
    { key: "drive", name: "Drive side at this point" },
    { key: "coast", name: "Coast side at this point" },
  ] as const;

  $effect(() => {
    if (place === null) return;
    const { pinion_mm, ring_mm } = place;
    let stale = false;
    const timer = setTimeout(async () => {
      const found = await on.contact({ pinion_mm, ring_mm });
      if (!stale && found) shown = found;
    }, 80);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  });

  function look(event: PointerEvent) {
    if (!svg || !frame) return;
    const box = svg.getBoundingClientRect();
    const scale = frame.size / box.width;
    looked = frame.under((event.clientX - box.left) * scale, (event.clientY - box.top) * scale + TOP);
  }
  function keys(event: KeyboardEvent) {
    if (!frame || place === null) return;
    const step = event.shiftKey ? 0.05 : 0.01;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const by = moves[event.key];
    if (event.key === "Escape" || event.key === "Home") looked = null;
    else if (by) {
      const clip = (value: number) => Math.min(Math.max(value, -frame.half), frame.half);
      looked = { ring_mm: clip(place.ring_mm + by[0]), pinion_mm: clip(place.pinion_mm + by[1]) };
    } else return;
    event.preventDefault();
  }
  const tickWord = (tick: number) => figure(Math.abs(tick) < 1e-9 ? 0 : tick, unit).replace("-", "−");
  const said = ({ pinion_mm, ring_mm }: Place) =>
    `pinion ${signed(pinion_mm, unit)}, ring gear ${signed(ring_mm, unit)}`;
</script>

{#if frame && chart && estimate}
  {@const trials = frame.trials}
  <p id="map-told" class="max-w-prose">
    The last trial is estimated at <strong>{said(estimate)}</strong> from the best position (+ pinion too
    shallow, + ring gear too far out).
    {#if move}The proposed move goes to <strong>{said(move.place)}</strong>.{/if}
  </p>
  <div class="mt-2 grid grid-cols-[minmax(0,1fr)] items-start gap-6 md:grid-cols-[minmax(0,1fr)_15rem]">
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <div
      role="group"
      tabindex="0"
      aria-label="Set-up map: arrows move the cross, Shift in larger steps, Escape back to the estimate"
      aria-describedby="map-told"
      onkeydown={keys}
    >
      <svg
        bind:this={svg}
        viewBox={`0 ${TOP} ${frame.size} ${frame.size - TOP}`}
        class="mx-auto block w-full max-w-[36rem] touch-pan-y"
        role="img"
        aria-label={`Ring gear position across, pinion depth up. ${chart.trials.length} trials.`}
        onpointermove={(event) => event.pointerType === "mouse" && look(event)}
        onpointerdown={look}
        onpointerleave={(event) => event.pointerType === "mouse" && (looked = null)}
      >
        <defs>
          <pattern
            id="passes"
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0v7" stroke="currentColor" stroke-width="1" opacity=".35" />
          </pattern>
          <marker
            id="arrow"
            viewBox="0 0 10 10"
            refX="9"
            refY="5"
            markerWidth="4"
            markerHeight="4"
            orient="auto"
          >
            <path d="M0 0 10 5 0 10z" class="fill-next stroke-base-content" />
          </marker>
        </defs>
        <rect
          x={frame.pad}
          y={frame.pad}
          width={frame.inner}
          height={frame.inner}
          fill="none"
          stroke="currentColor"
          stroke-width="1.2"
        />
        {#each frame.ticks as tick (tick)}
          <path
            d={`M${frame.x(tick)} ${frame.pad}v${frame.inner}M${frame.pad} ${frame.y(tick)}h${frame.inner}`}
            stroke="currentColor"
            stroke-width=".8"
            opacity={Math.abs(tick) < 1e-9 ? 0.5 : 0.14}
          />
          <g class="figure" font-size="14" fill="currentColor">
            <text x={frame.x(tick)} y={frame.size - frame.pad + 17} text-anchor="middle"
              >{tickWord(tick)}</text
            >
            <text x={frame.pad - 5} y={frame.y(tick) + 5} text-anchor="end">{tickWord(tick)}</text>
          </g>
        {/each}
        <g class="label-text" font-size="15" fill="currentColor" text-anchor="middle">
          <text x={frame.size / 2} y={frame.size - 6}>ring gear: in ← → out, {figureUnit(unit)}</text>
          <text transform={`translate(14 ${frame.size / 2}) rotate(-90)`}>pinion: deeper ← → shallower</text>
        </g>
        <path d={frame.region(0)} class="fill-base-300" stroke="currentColor" stroke-width="2" />
        <path d={frame.region(0)} fill="url(#passes)" />
        <clipPath id="map-edge"
          ><rect x={frame.pad} y={frame.pad} width={frame.inner} height={frame.inner} /></clipPath
        >
        <path
          clip-path="url(#map-edge)"
          d={frame.ellipse}
          fill="none"
          stroke="currentColor"
          stroke-width="2"
          stroke-dasharray="3 4"
        />
        {#if trials.length > 1}
          <path
            d={`M${trials.map(({ x, y }) => `${x} ${y}`).join("L")}`}
            fill="none"
            stroke="currentColor"
            stroke-width="1.8"
          />
        {/if}
        {#if move}
          {@const from = trials.at(-1) ?? { x: 0, y: 0 }}
          <path
            d={`M${from.x} ${from.y}L${frame.x(move.place.ring_mm)} ${frame.y(move.place.pinion_mm)}`}
            class="stroke-base-content"
            stroke-width="6"
          />
          <path
            d={`M${from.x} ${from.y}L${frame.x(move.place.ring_mm)} ${frame.y(move.place.pinion_mm)}`}
            class="stroke-next"
            stroke-width="3.5"
            marker-end="url(#arrow)"
          />
        {/if}
        {#each trials as { x, y }, index (index)}
          <rect x={x - 9} y={y - 10} width="18" height="20" class="fill-base-content" />
          <text {x} y={y + 6} text-anchor="middle" class="figure fill-base-100" font-size="16"
            >{index + 1 + bench.trials.length - trials.length}</text
          >
        {/each}
        {#if looked}
          {@const x = frame.x(looked.ring_mm)}
          {@const y = frame.y(looked.pinion_mm)}
          <path
            d={`M${x - 16} ${y}h12M${x + 4} ${y}h12M${x} ${y - 16}v12M${x} ${y + 4}v12`}
            stroke="currentColor"
            stroke-width="2.5"
          />
        {/if}
      </svg>
    </div>
    <div>
      <p class="label-text">
        {looked ? "At the cross" : "Now"}
      </p>
      {#if place}<p class="figure text-lg">{said(place)}</p>{/if}
      {#if shown}
        {#each FLANKS as { key, name } (key)}
          <p class="mt-2 text-sm">{name}</p>
          <FlankDrawing
            proportions={bench.proportions}
            label={`${name}: middle at ${Math.round(100 * shown[key].u)} % from toe to heel, ${Math.round(100 * shown[key].v)} % from root to tip`}
            model={shown[key]}
            window={bench.pattern_window[key]}
            width={300}
            pad={4}
            words={false}
          />
          <p class="quiet text-sm">
            {Math.round(100 * shown[key].u)} % toe to heel, {Math.round(100 * shown[key].v)} % root to tip
          </p>
        {/each}
      {/if}
    </div>
  </div>
  <p class="quiet mt-2 max-w-prose">
    Hatched: backlash and both patterns are in. Dotted line: one standard deviation of the estimate, {length(
      Math.sqrt(Math.max(estimate.covariance[0]?.[0] ?? 0, 0)),
      unit,
    )} in depth and {length(Math.sqrt(Math.max(estimate.covariance[1]?.[1] ?? 0, 0)), unit)} in ring gear position.
  </p>
  <details class="mt-1">
    <summary class="min-h-touch cursor-pointer py-2 font-semibold">Show as a table</summary>
    <table class="max-w-md">
      <thead
        ><tr class="quiet text-left"
          ><th scope="col" class="pr-6">Trial</th><th scope="col" class="pr-6">Pinion</th><th scope="col"
            >Ring</th
          ></tr
        ></thead
      >
      <tbody>
        {#each chart.trials as [ring = 0, pinion = 0], index (index)}
          <tr class="border-line border-t"
            ><th scope="row" class="text-left font-normal"
              >{index + 1 + bench.trials.length - chart.trials.length}</th
            ><td>{signed(pinion, unit)}</td><td>{signed(ring, unit)}</td></tr
          >
        {/each}
        {#if move}
          <tr class="border-line border-t"
            ><th scope="row" class="text-left font-normal">after the move</th><td
              >{signed(move.place.pinion_mm, unit)}</td
            ><td>{signed(move.place.ring_mm, unit)}</td></tr
          >
        {/if}
      </tbody>
    </table>
  </details>
{:else}
  <p class="max-w-prose">
    {on.thinking
      ? "Calculating the gear positions…"
      : "The map shows once the gear set is identified, the conditions are confirmed and there is a reading: backlash or a contact pattern."}
  </p>
{/if}
