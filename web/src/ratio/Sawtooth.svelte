<script lang="ts">
  import type { Schemas } from "../api/client";
  import { BOX, plot } from "../lib/plot";
  import Axes from "../lib/Axes.svelte";
  import { told, type Unit } from "../lib/units";
  import { saw } from "./saw";

  interface Props {
    gearing: Schemas["GearingShown"];
    /** drawn thin behind it */
    now: Schemas["GearingShown"] | null;
    use: Schemas["Use"];
    engine: Schemas["Engine"];
    speed: Unit;
    most_kmh: number;
  }
  let { gearing, now, use, engine, speed, most_kmh }: Props = $props();
  const chart = $derived(plot(most_kmh * speed.per, engine.redline_rpm * 1.06));
  const x = (kmh: number) => chart.x(kmh * speed.per);
  const id = $props.id();

  const line = (one: Schemas["GearingShown"]) => saw(one, engine, x, chart.y);
  const top = $derived(gearing.gears.at(-1));
  const label = $derived(
    `${gearing.name}: engine speed over road speed. ` +
      gearing.gears
        .map(
          (gear, index) =>
            `Gear ${index + 1} to ${told(gear.redline_kmh, speed)}, at cruise ${gear.cruise_rpm.toFixed(0)} rpm`,
        )
        .join("; "),
  );
</script>

<svg viewBox={`0 0 ${BOX.width} ${BOX.height}`} class="block w-full" role="img" aria-label={label}>
  <clipPath {id}
    ><rect
      x={BOX.left}
      y={BOX.top}
      width={BOX.width - BOX.left - BOX.right + 20}
      height={BOX.height - BOX.top - BOX.bottom}
    /></clipPath
  >
  <rect
    x={BOX.left}
    y={chart.y(use.cruise_rpm_max)}
    width={BOX.width - BOX.left - BOX.right}
    height={chart.y(use.cruise_rpm_min) - chart.y(use.cruise_rpm_max)}
    class="fill-base-300"
  />
  <path
    d={`M${x(use.cruise_kmh)} ${BOX.top}V${BOX.height - BOX.bottom}`}
    stroke="currentColor"
    stroke-width="1.2"
    stroke-dasharray="2 4"
  />
  <Axes {chart} xName={speed.name} yName="rpm" />
  <g clip-path={`url(#${id})`}>
    {#each gearing.gears as gear, index (index)}
      <path
        d={`M${x(0)} ${chart.y(0)}L${x(gear.redline_kmh)} ${chart.y(engine.redline_rpm)}`}
        stroke="currentColor"
        stroke-width="1"
        opacity=".3"
      />
    {/each}
    {#if now}<path
        d={line(now)}
        fill="none"
        stroke="currentColor"
        stroke-width="1.6"
        stroke-dasharray="6 5"
      />{/if}
    <path d={line(gearing)} fill="none" stroke="currentColor" stroke-width="3" />
  </g>
  {#each gearing.gears as gear, index (index)}
    {#if gear.redline_kmh <= most_kmh * 1.02}
      <text
        x={x(gear.redline_kmh)}
        y={chart.y(engine.redline_rpm) - 4}
        text-anchor="middle"
        class="figure"
        font-size="16"
        fill="currentColor">{index + 1}</text
      >
    {/if}
  {/each}
  {#if top}
    <rect
      x={x(use.cruise_kmh) - 6}
      y={chart.y(top.cruise_rpm) - 6}
      width="12"
      height="12"
      class="fill-base-100"
      stroke="currentColor"
      stroke-width="3"
    />
    <text
      x={x(use.cruise_kmh) + 12}
      y={chart.y(top.cruise_rpm) + 20}
      class="figure"
      font-size="18"
      fill="currentColor">{top.cruise_rpm.toFixed(0)}</text
    >
  {/if}
</svg>
