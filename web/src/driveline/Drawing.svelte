<script lang="ts">
  import type { Schemas } from "../api/client";
  import { along, jointState, NARROW, scaleFor, WIDE, type Point3, type View } from "./drawing";

  interface Props {
    view: View;
    setting: Schemas["Setting"];
    /** as it is, when a remedy is tried */
    before?: Schemas["Setting"] | null;
    kinds: string[];
    tube_mm: number;
    axle_mm: number[];
    ondrag?: ((joint: number, place: Point3) => void) | null;
    /** what is asked for at a member when it is pressed: its name and what it reads now */
    members?: { member: number; label: string; picked: boolean }[];
    onmember?: ((member: number) => void) | null;
  }
  let {
    view,
    setting,
    before = null,
    kinds,
    tube_mm,
    axle_mm,
    ondrag = null,
    members = [],
    onmember = null,
  }: Props = $props();
  const STUB_MM = 150;
  const WORDS = { in: "in", edge: "edge", out: "OUT" };
  const ride = $derived(setting.cases[0]?.state);
  const points = $derived(ride?.points_mm ?? []);
  const axes = $derived(ride?.axes ?? []);
  let held = $state.raw<{ joint: number; scale: ReturnType<typeof scaleFor> } | null>(null);
  const out = $derived(along(points[0] ?? [0, 0, 0], axes[0] ?? [1, 0, 0], -STUB_MM));
  let room = $state(WIDE);
  const width = $derived(room < 520 ? NARROW : WIDE);
  const natural = $derived(scaleFor([...points, out, axle_mm], view, width));
  // while a joint is held the paper must not move under the finger
  const scale = $derived(held?.scale ?? natural);
  const wide = $derived(Math.max(tube_mm * scale.per, 5));
  const ghost = $derived(before?.cases[0]?.state.points_mm ?? []);
  const line = (list: number[][]) =>
    `M${list.map((one) => `${scale.x(one).toFixed(1)} ${scale.y(one).toFixed(1)}`).join("L")}`;
  /** A member on the paper: the output's stub, a propshaft, the pinion's stub. */
  function memberLine(member: number): string {
    const first = points[0] ?? [0, 0, 0];
    const last = points.at(-1) ?? [0, 0, 0];
    if (member === 0) return line([out, first]);
    if (member >= points.length) return line([last, along(last, axes.at(-1) ?? [1, 0, 0], STUB_MM)]);
    return line([points[member - 1] ?? first, points[member] ?? last]);
  }
  const angle = (index: number) => `${(setting.analysed.joint_angle_deg[index] ?? 0).toFixed(1)}°`;
  const label = $derived(
    `${view === "side" ? "Side view" : "Top view"} to scale. ` +
      points
        .map(
          (_, index) =>
            `Joint ${index + 1}: ${angle(index)}, ${WORDS[jointState(setting.analysed.limits, index + 1)]}`,
        )
        .join("; "),
  );

  function place(event: PointerEvent): [number, number] {
    const box = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
    if (box === undefined) return [0, 0];
    const per = width / box.width;
    return [(event.clientX - box.left) * per, (event.clientY - box.top) * per];
  }
  function move(event: PointerEvent, joint: number) {
    const point = points[joint];
    if (held?.joint !== joint || point === undefined) return;
    const [x, y] = place(event);
    ondrag?.(joint, scale.back(point, x, y));
  }
  function keys(event: KeyboardEvent, joint: number) {
    const point = points[joint];
    const step = event.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (by === undefined || point === undefined) return;
    event.preventDefault();
    const moved: Point3 = [point[0] ?? 0, point[1] ?? 0, point[2] ?? 0];
    moved[0] += (by[0] ?? 0) * step;
    // up on the paper is up in the side view and the right side in the top view
    if (view === "side") moved[2] += (by[1] ?? 0) * step;
    else moved[1] -= (by[1] ?? 0) * step;
    ondrag?.(joint, moved);
  }
</script>

<div bind:clientWidth={room}>
  <svg
    viewBox={`0 0 ${width} ${scale.height.toFixed(0)}`}
    class="block w-full"
    role={ondrag ? "group" : "img"}
    aria-label={label}
    data-drawing={view}
  >
    <g fill="none" stroke="currentColor">
      {#if ghost.length > 0}
        <path d={line(ghost)} stroke-width="1.4" stroke-dasharray="5 4" opacity=".7" />
      {/if}
      <!-- the wheel axis, the pinion's housing and the gearbox's tail: where they stand, not what they look like -->
      <path d={line([points.at(-1) ?? [0, 0, 0], axle_mm])} stroke-width="1.2" stroke-dasharray="9 3 2 3" />
      <circle cx={scale.x(axle_mm)} cy={scale.y(axle_mm)} r="11" stroke-width="2" />
      <circle cx={scale.x(axle_mm)} cy={scale.y(axle_mm)} r="2" fill="currentColor" />
      <path d={line([out, points[0] ?? [0, 0, 0]])} stroke-width={Math.max(wide * 0.8, 6)} opacity=".3" />
      <path
        d={line([
          points.at(-1) ?? [0, 0, 0],
          along(points.at(-1) ?? [0, 0, 0], axes.at(-1) ?? [1, 0, 0], STUB_MM),
        ])}
        stroke-width={Math.max(wide * 0.8, 6)}
        opacity=".3"
      />
      {#each points.slice(1) as point, index (index)}
        {@const from = points[index] ?? [0, 0, 0]}
        <path d={line([from, point])} stroke-width={wide} opacity=".18" />
        <path d={line([from, point])} stroke-width="1.6" />
      {/each}
    </g>
    {#if onmember}
      {#each members as one (one.member)}
        {#if one.picked}<path
            d={memberLine(one.member)}
            class="stroke-next"
            stroke-width={wide + 6}
            opacity=".55"
            fill="none"
          />{/if}
        <path
          d={memberLine(one.member)}
          stroke="transparent"
          stroke-width="44"
          fill="none"
          class="cursor-pointer"
          role="button"
          tabindex="0"
          aria-label={one.label}
          aria-pressed={one.picked}
          onclick={() => onmember(one.member)}
          onkeydown={(event) => {
            if (event.key !== "Enter" && event.key !== " ") return;
            event.preventDefault();
            onmember(one.member);
          }}
        />
      {/each}
    {/if}
    {#each points as point, index (index)}
      {@const state = jointState(setting.analysed.limits, index + 1)}
      {@const above = view === "side" ? index % 2 === 0 : index % 2 === 1}
      {@const x = scale.x(point)}
      {@const y = scale.y(point)}
      {@const ty = above ? y - 26 : y + 42}
      <g class={state === "out" ? "text-out" : state === "edge" ? "text-edge" : ""}>
        {#if kinds[index] === "cardan"}
          <path d={`M${x - 9} ${y}h18M${x} ${y - 9}v18`} stroke="currentColor" stroke-width="2.6" />
        {:else if kinds[index] === "double_cardan"}
          <path
            d={`M${x - 14} ${y}h28M${x - 6} ${y - 9}v18M${x + 6} ${y - 9}v18`}
            stroke="currentColor"
            stroke-width="2.6"
          />
        {:else}
          <circle cx={x} cy={y} r="6" fill="currentColor" />
        {/if}
        {#if state === "out"}
          <path
            d={`M${x} ${y - 17}l17 17l-17 17l-17 -17z`}
            fill="none"
            stroke="currentColor"
            stroke-width="2.6"
          />
        {:else}
          <circle
            cx={x}
            cy={y}
            r="14"
            fill="none"
            stroke="currentColor"
            stroke-width={state === "edge" ? 2.6 : 1.6}
            stroke-dasharray={state === "edge" ? "6 4" : "none"}
          />
        {/if}
        <text {x} y={ty} text-anchor="middle" class="figure" font-size="23" fill="currentColor"
          >{angle(index)}</text
        >
        {#if state !== "in"}
          <text
            {x}
            y={ty + (above ? -22 : 17)}
            text-anchor="middle"
            class="label-text"
            font-size="15"
            fill="currentColor">{WORDS[state]}</text
          >
        {/if}
      </g>
      {#if ondrag}
        <circle
          cx={x}
          cy={y}
          r="24"
          fill="transparent"
          class="cursor-grab touch-none"
          role="button"
          tabindex="0"
          aria-label={`Joint ${index + 1} in the ${view} view: ${point.map((one) => one.toFixed(0)).join(", ")} mm rearward, left, up. Arrow keys move it, with Shift by 10 mm.`}
          onpointerdown={(event) => {
            held = { joint: index, scale: natural };
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onpointermove={(event) => move(event, index)}
          onpointerup={() => (held = null)}
          onpointercancel={() => (held = null)}
          onkeydown={(event) => keys(event, index)}
        />
      {/if}
    {/each}
    <g class="label-text" font-size="15" fill="currentColor">
      <text x="6" y="18">{view === "side" ? "Seen from the left side" : "Seen from above"}</text>
      <text x={width - 6} y="18" text-anchor="end"
        >front ← → rear{view === "top" ? ", left side below" : ""}</text
      >
      <path
        d={`M${width - 6 - 200 * scale.per} ${scale.height - 8}h${200 * scale.per}m0 -4v8m${-200 * scale.per} 0v-8`}
        stroke="currentColor"
        stroke-width="1.5"
        fill="none"
      />
      <text x={width - 14 - 200 * scale.per} y={scale.height - 4} text-anchor="end">200 mm</text>
    </g>
  </svg>
</div>
