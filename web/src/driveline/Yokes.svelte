<script lang="ts">
  import type { Schemas } from "../api/client";

  interface Props {
    analysed: Schemas["Analysed"];
    clocks: number[];
  }
  let { analysed, clocks }: Props = $props();
  const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
  const SECONDS_A_TURN = 12;
  let turning = $state(!still);
  let theta = $state(0);
  const shafts = $derived(analysed.turn.fork_clock_deg);
  const width = $derived(shafts.length * 220);

  $effect(() => {
    if (!turning) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function step(now) {
      theta = (theta + ((now - last) / 1000 / SECONDS_A_TURN) * 360) % 360;
      last = now;
      frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  });

  const fork = (shaft: number) => shafts[shaft]?.[Math.round(theta)] ?? 0;
  const label = $derived(
    shafts
      .map((_, index) => {
        const plane = analysed.plane_angle_deg[index] ?? 0;
        const clock = clocks[index] ?? 0;
        return `Propshaft ${index + 1}: rear yoke ${clock.toFixed(1)} degrees clockwise of the front yoke; rear joint plane ${plane.toFixed(1)} degrees clockwise of the front one`;
      })
      .join("; "),
  );
  /** a line through the middle, turned clockwise from upright as somebody at the driver sees it */
  const turned = (degrees: number) => `rotate(${degrees.toFixed(1)})`;
</script>

<div>
  <svg
    viewBox={`0 0 ${width} 210`}
    class="block w-full"
    style:max-width={`${width * 1.4}px`}
    role="img"
    aria-label={label}
  >
    {#each clocks as clock, index (index)}
      {@const noise = analysed.plane_is_noise[index] ?? false}
      <g transform={`translate(${110 + 220 * index} 100)`} fill="none" stroke="currentColor">
        <circle r="74" stroke-width="1" opacity=".4" />
        <!-- planes of the two joints: thin lines past the circle -->
        <g transform={turned(analysed.plane_clock_front_deg[index] ?? 0)} opacity={noise ? 0.3 : 1}>
          <path d="M0 -88V88" stroke-width="1.4" />
          <text y="-90" text-anchor="middle" stroke="none" fill="currentColor" font-size="12">F</text>
        </g>
        <g transform={turned(analysed.plane_clock_rear_deg[index] ?? 0)} opacity={noise ? 0.3 : 1}>
          <path d="M0 -88V88" stroke-width="1.4" stroke-dasharray="5 4" />
          <text y="-90" text-anchor="middle" stroke="none" fill="currentColor" font-size="12">R</text>
        </g>
        <!-- yokes: thick bars that turn -->
        <g transform={turned(fork(index))}>
          <path d="M0 -64V64" stroke-width="9" />
          <circle cy="-64" r="8" fill="currentColor" stroke="none" />
          <circle cy="64" r="8" fill="currentColor" stroke="none" />
        </g>
        <g transform={turned(fork(index) + clock)}>
          <path d="M0 -48V48" stroke-width="5" stroke="var(--color-base-100)" />
          <path d="M0 -48V48" stroke-width="3" stroke-dasharray="6 3" />
          <circle cy="-48" r="5.5" fill="var(--color-base-100)" stroke-width="2.5" />
          <circle cy="48" r="5.5" fill="var(--color-base-100)" stroke-width="2.5" />
        </g>
        <text y="106" text-anchor="middle" stroke="none" fill="currentColor" class="label-text" font-size="15"
          >Propshaft {index + 1}{noise ? ", one joint is too straight to have a plane" : ""}</text
        >
      </g>
    {/each}
  </svg>
  <div class="flex flex-wrap items-center gap-3">
    <button class="btn btn-plain btn-sm" aria-pressed={turning} onclick={() => (turning = !turning)}
      >{turning ? "Stop" : "Start"}</button
    >
    <label class="flex min-w-40 grow items-center gap-2"
      ><span class="label-text">Turn</span>
      <input
        class="slider"
        type="range"
        min="0"
        max="360"
        aria-label="Angle of the output, degrees"
        value={Math.round(theta)}
        oninput={(event) => {
          turning = false;
          theta = event.currentTarget.valueAsNumber;
        }}
      /></label
    >
  </div>
  <p class="quiet text-sm">
    Seen from the gearbox end. Filled bar: front yoke; hollow bar: rear yoke. Thin lines: planes of the front
    joint (F) and the rear joint (R, dashed). In phase means that both yokes lie in their own planes at the
    same instant.
  </p>
</div>
