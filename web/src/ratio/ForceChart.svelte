<script lang="ts">
  import type { Schemas } from "../api/client";
  import { BOX, line, plot } from "../lib/plot";
  import Axes from "../lib/Axes.svelte";
  import type { Unit } from "../lib/units";

  interface Props {
    gearing: Schemas["GearingShown"];
    compared: Schemas["Compared"];
    speed: Unit;
    force: Unit;
    most_kmh: number;
  }
  let { gearing, compared, speed, force, most_kmh }: Props = $props();
  // first gear's peak would flatten all that matters on the road: the chart ends a little over the second's
  const most = $derived.by(() => {
    const second = gearing.gears[1] ?? gearing.gears[0];
    return Math.max(...(second?.force.map((one) => one.force_n) ?? []), 1) * 1.12;
  });
  const chart = $derived(plot(most_kmh * speed.per, most * force.per));
  const path = (points: { speed_kmh: number; force_n: number }[]) =>
    line(
      points.map((one) => ({ x: one.speed_kmh * speed.per, y: one.force_n * force.per })),
      chart,
    );
  const road = (asked: number[]) =>
    path(
      compared.speed_kmh
        .map((speed_kmh, index) => ({ speed_kmh, force_n: asked[index] ?? 0 }))
        .filter((one) => one.speed_kmh <= most_kmh),
    );
  const lines = $derived([
    { name: "level", asked: compared.level_n },
    ...compared.grades.map((one) => ({ name: `${one.grade_pct} %`, asked: one.force_n })),
  ]);
  const label = $derived(
    `${gearing.name}: wheel force over road speed. ` +
      gearing.gears
        .map((gear, index) =>
          gear.cruise_grade_pct === null
            ? `Gear ${index + 1} cannot be used at cruise`
            : `gear ${index + 1} holds ${gear.cruise_grade_pct.toFixed(1)} % at cruise`,
        )
        .join("; "),
  );
</script>

<svg viewBox={`0 0 ${BOX.width} ${BOX.height}`} class="block w-full" role="img" aria-label={label}>
  <Axes {chart} xName={speed.name} yName={`wheel force, ${force.name}`} yDigits={force.digits} />
  {#each lines as { name, asked } (name)}
    {@const last = asked.at(-1) ?? 0}
    {#if last * force.per < most * force.per}
      <path d={road(asked)} fill="none" stroke="currentColor" stroke-width="1.3" stroke-dasharray="2 4" />
      <text
        x={chart.x(most_kmh * speed.per) + 3}
        y={chart.y(last * force.per) + 5}
        font-size="14"
        class="figure"
        fill="currentColor">{name}</text
      >
    {/if}
  {/each}
  {#each gearing.gears as gear, index (index)}
    {@const start = gear.force[0]}
    <path
      d={path(gear.force.filter((one) => one.speed_kmh <= most_kmh))}
      fill="none"
      stroke="currentColor"
      stroke-width="2.6"
    />
    {#if start}
      <text
        x={chart.x(start.speed_kmh * speed.per) + 2}
        y={chart.y(start.force_n * force.per) - 5}
        class="figure"
        font-size="16"
        fill="currentColor">{index + 1}</text
      >
    {/if}
  {/each}
</svg>
