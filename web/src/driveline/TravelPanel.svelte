<script lang="ts">
  import Axes from "../lib/Axes.svelte";
  import { BOX, line, plot } from "../lib/plot";
  import { told, type Quantity, type Unit } from "../lib/units";
  import type { DrivelineAnswer, DrivelineDesk, Inputs } from "./desk.svelte";
  import OrderFields from "./OrderFields.svelte";
  import SlipFields from "./SlipFields.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    answer: DrivelineAnswer;
    units: Record<Quantity, Unit>;
  }
  let { on, inputs, answer, units }: Props = $props();
  const size = $derived({ ...units.size, digits: units.size.name === "in" ? 2 : 0 });
  const setting = $derived(answer.tried ?? answer.now);
  const travel = $derived(setting.travel);
  const slip = $derived(setting.slip);
  const one = (mm: number) => told(mm, size);
  const chart = $derived.by(() => {
    if (!travel) return null;
    const shown = travel.sweep.map((at) => ({ x: at.dz_mm * size.per, y: at.length_mm * size.per }));
    const least = Math.min(...shown.map((at) => at.y));
    const most = Math.max(...shown.map((at) => at.y));
    const room = Math.max((most - least) * 0.2, 0.5 * size.per);
    const scale = plot(shown.at(-1)?.x ?? 1, most + room, shown[0]?.x ?? 0, BOX, least - room);
    return { scale, path: line(shown, scale) };
  });
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-6">
  {#if travel && chart}
    <section aria-labelledby="plunge" class="grid gap-x-8 gap-y-3 lg:grid-cols-[minmax(0,1fr)_18rem]">
      <div>
        <h2 id="plunge">Slip joint length over the travel</h2>
        <svg
          viewBox={`0 0 ${BOX.width} ${BOX.height}`}
          class="block w-full"
          role="img"
          aria-label={`Shaft length from droop to bump: ${one(travel.length_droop_mm)} fully down, ${one(travel.length_ride_mm)} at ride height, ${one(travel.length_bump_mm)} fully up; shortest ${one(travel.length_min_mm)}, longest ${one(travel.length_max_mm)}.`}
        >
          <Axes
            chart={chart.scale}
            xName={`axle up, ${size.name}`}
            yName={`joint to joint, ${size.name}`}
            yDigits={size.digits}
          />
          <path d={chart.path} fill="none" stroke="currentColor" stroke-width="2.6" />
          {#each [{ name: "ride", x: 0, y: travel.length_ride_mm }, { name: "shortest", x: travel.shortest_at_mm, y: travel.length_min_mm }, { name: "longest", x: travel.longest_at_mm, y: travel.length_max_mm }] as mark (mark.name)}
            <circle
              cx={chart.scale.x(mark.x * size.per)}
              cy={chart.scale.y(mark.y * size.per)}
              r="6"
              fill="currentColor"
            />
            <text
              x={Math.min(Math.max(chart.scale.x(mark.x * size.per), BOX.left + 34), BOX.width - 66)}
              y={chart.scale.y(mark.y * size.per) + (mark.name === "shortest" ? 22 : -11)}
              text-anchor="middle"
              class="figure"
              font-size="16"
              fill="currentColor">{mark.name}</text
            >
          {/each}
        </svg>
      </div>
      <dl class="grid content-start gap-2">
        <div>
          <dt class="label-text">From ride height it is pushed in</dt>
          <dd class="figure text-2xl">{one(travel.plunge_in_mm)}</dd>
        </div>
        <div>
          <dt class="label-text">and drawn out</dt>
          <dd class="figure text-2xl">{one(travel.plunge_out_mm)}</dd>
        </div>
        <div>
          <dt class="label-text">Largest joint angles</dt>
          <dd>
            {#each travel.joint_max_deg as angle, index (index)}
              <span class="block"
                >Joint {index + 1}: <span class="figure text-xl">{angle.toFixed(1)}°</span>
                <span class="quiet text-sm"
                  >with the axle {one(Math.abs(travel.joint_max_at_mm[index] ?? 0))}
                  {(travel.joint_max_at_mm[index] ?? 0) < 0 ? "down" : "up"}</span
                ></span
              >
            {/each}
          </dd>
        </div>
      </dl>
    </section>
  {/if}
  {#key inputs}<SlipFields {on} {inputs} {slip} {size} />{/key}
  <OrderFields {on} {inputs} {answer} {size} />
</div>
