<script lang="ts" module>
  import type { Wall as AnyWall } from "./wall.svelte";

  const WORDS: Record<string, string> = {
    X: "Wheel axis",
    Y: "Pinion",
    Z: "Propshaft, front at the left",
    D: "Inside the carrier",
    T: "Output, rearward to the right",
  };

  /** The name of each axis, at its beginning. */
  function labels(wall: AnyWall): { text: string; x: number; y: number }[] {
    const seen: Record<string, { text: string; x: number; y: number }> = {};
    for (const line of wall.axes) {
      const text = WORDS[line.axis];
      if (text === undefined || seen[line.axis] !== undefined) continue;
      seen[line.axis] = {
        text,
        x: Math.max(line.x1 - 14, 6),
        y: line.axis === "D" ? line.y1 + 62 : Math.max(line.y1 - 22, 14),
      };
    }
    return Object.values(seen);
  }
</script>

<script lang="ts">
  import { NAME_SIZE, namesOnMap } from "./names-on-map";
  import PartGlyph from "./PartGlyph.svelte";
  import { titled, type Part, type Wall } from "./wall.svelte";

  interface Props {
    wall: Wall;
    held: string[];
    picked: string | null;
    onpick: (key: string) => void;
  }
  let { wall, held, picked, onpick }: Props = $props();
  const drawn = $derived(wall.parts.filter((part) => part.drawn !== null));
  const stateOf = (part: Part) => (held.includes(part.key) ? "off" : part.state);
  const place = ({ drawn }: Part) => ({ x: drawn?.x ?? 0, y: drawn?.y ?? 0 });
  const bad = (part: Part) => part.seen?.decision === "replace" || part.seen?.decision === "repair";
  const toGet = (part: Part) =>
    part.need !== null && part.need !== "arrived" && part.need !== "fitted" && part.need !== "returned";
  const looks = (part: Part) => part.look_at !== "" && (part.planned || part.state !== "on");
  const told = (part: Part) => {
    const words = { on: "on", off: "off", back: "back on", stays_out: "stays out" };
    return [
      titled(part.name),
      words[stateOf(part)],
      bad(part) && (part.seen?.findings_word || "found bad"),
      toGet(part) && "to get",
      looks(part) && `look at it: ${part.look_at}`,
    ]
      .filter(Boolean)
      .join(", ");
  };
  const chosen = $derived(drawn.find((part) => part.key === picked) ?? null);
  let over = $state<string | null>(null);
  const badNames = $derived(
    namesOnMap(
      drawn.filter(bad).map((part) => ({ key: part.key, text: titled(part.name), ...place(part) })),
      drawn.map(place),
      wall,
    ),
  );
  const named = $derived(drawn.find((part) => part.key === over) ?? chosen);
  const counts = $derived({
    off: wall.parts.filter((part) => stateOf(part) === "off").length,
    bad: wall.parts.filter(bad).length,
    toGet: wall.needs.filter((need) => ["wanted", "asked", "ordered"].includes(need.state)).length,
    back: wall.parts.filter((part) => part.state === "back").length,
  });

  function keys(event: KeyboardEvent, key: string) {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      onpick(key);
    }
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const at = drawn.findIndex((part) => part.key === key);
    const next = drawn[(at + step + drawn.length) % drawn.length];
    if (next) document.getElementById(`place-${next.key}`)?.focus();
  }
  const first = $derived(chosen?.key ?? drawn[0]?.key);
</script>

<p class="mb-2 flex flex-wrap gap-x-5 gap-y-1" aria-label="What the marks mean">
  <span class="inline-flex items-center gap-1.5"
    ><svg width="22" height="26" viewBox="-11 -13 22 26" aria-hidden="true"
      ><rect
        x="-7"
        y="-9"
        width="14"
        height="18"
        class="is-off"
        stroke="currentColor"
        stroke-width="1.8"
      /></svg
    >off: {counts.off}</span
  >
  <span class="inline-flex items-center gap-1.5"
    ><svg width="22" height="26" viewBox="-11 -13 22 26" aria-hidden="true"
      ><path d="M-8 -8 L8 8 M8 -8 L-8 8" stroke="currentColor" stroke-width="3" /></svg
    >found bad: {counts.bad}</span
  >
  <span class="inline-flex items-center gap-1.5"
    ><svg width="22" height="26" viewBox="-11 -13 22 26" aria-hidden="true"
      ><circle r="8" class="fill-base-100" stroke="currentColor" stroke-width="1.5" /><path
        d="M-4 0 H4 M0 -4 V4"
        stroke="currentColor"
        stroke-width="2"
      /></svg
    >to get: {counts.toGet}</span
  >
  <span class="inline-flex items-center gap-1.5"
    ><svg width="22" height="26" viewBox="-11 -13 22 26" aria-hidden="true"
      ><path d="M-7 0 L-2 5 L7 -6" fill="none" stroke="currentColor" stroke-width="2.5" /></svg
    >back on: {counts.back}</span
  >
  <span class="quiet">thin: still on, not part of this work</span>
</p>
<div class="border-line overflow-x-auto border-2">
  <svg
    viewBox={`0 0 ${wall.width} ${wall.height}`}
    class="block w-full min-w-[56rem]"
    role="group"
    aria-label="Exploded drawing: arrow keys go from part to part"
  >
    {#each wall.axes as line, index (index)}
      <path
        d={`M${line.x1} ${line.y1} L${line.x2} ${line.y2}`}
        stroke="currentColor"
        stroke-width="1"
        stroke-dasharray="14 4 3 4"
        opacity="0.45"
      />
    {/each}
    {#each drawn as part (part.key)}
      {@const at = part.drawn ?? { x: 0, y: 0, turned_deg: 0 }}
      {@const state = stateOf(part)}
      <g
        id={`place-${part.key}`}
        transform={`translate(${at.x} ${at.y})`}
        role="button"
        tabindex={part.key === first ? 0 : -1}
        aria-label={told(part)}
        aria-pressed={part.key === picked}
        class="place cursor-pointer outline-none"
        onclick={() => onpick(part.key)}
        onpointerenter={() => (over = part.key)}
        onpointerleave={() => (over = null)}
        onfocus={() => (over = part.key)}
        onblur={() => (over = null)}
        onkeydown={(event) => keys(event, part.key)}
      >
        <rect
          x="-12"
          y="-16"
          width="24"
          height="32"
          class={["frame", part.key === picked && "picked"]}
          fill="transparent"
        />
        <g
          transform={`rotate(${at.turned_deg})`}
          class={state === "off" ? "is-off" : "fill-base-100"}
          stroke="currentColor"
          stroke-width={part.planned || state !== "on" ? 1.8 : 1}
          opacity={part.planned || state !== "on" || part.seen || looks(part) ? 1 : 0.55}
        >
          <PartGlyph kind={part.kind} />
        </g>
        {#if state === "back"}
          <g transform="translate(7 10)"
            ><circle r="7" class="fill-base-100" stroke="currentColor" /><path
              d="M-4 0 L-1 3 L4 -3"
              fill="none"
              stroke="currentColor"
              stroke-width="2"
            /></g
          >
        {/if}
        {#if bad(part)}
          <path d="M-9 -11 L9 11 M9 -11 L-9 11" class="stroke-base-100" stroke-width="6" /><path
            d="M-9 -11 L9 11 M9 -11 L-9 11"
            stroke="currentColor"
            stroke-width="2.6"
          />
        {:else if looks(part)}
          <g transform="translate(-8 -11)"
            ><circle r="7.5" class="fill-base-100" stroke="currentColor" /><text
              class="figure"
              font-size="12"
              text-anchor="middle"
              y="4"
              fill="currentColor">?</text
            ></g
          >
        {/if}
        {#if toGet(part)}
          <g transform="translate(8 -11)"
            ><circle r="7" class="fill-base-100" stroke="currentColor" stroke-width="1.5" /><path
              d="M-4 0 H4 M0 -4 V4"
              stroke="currentColor"
              stroke-width="1.8"
            /></g
          >
        {/if}
      </g>
    {/each}
    {#each badNames.filter((one) => one.key !== named?.key) as one (one.key)}
      <text
        class="figure pointer-events-none"
        font-size={NAME_SIZE}
        fill="currentColor"
        x={one.x}
        y={one.y}
        text-anchor={one.anchor}
        paint-order="stroke"
        stroke="var(--color-base-100)"
        stroke-width="4"
        aria-hidden="true">{one.text}</text
      >
    {/each}
    {#if named?.drawn}
      {@const at = named.drawn}
      <text
        class="figure pointer-events-none"
        font-size="19"
        fill="currentColor"
        x={Math.min(Math.max(at.x, 90), wall.width - 90)}
        y={at.y > wall.height - 50 ? at.y - 24 : at.y + 34}
        text-anchor="middle"
        paint-order="stroke"
        stroke="var(--color-base-100)"
        stroke-width="5">{titled(named.name)}</text
      >
    {/if}
    <g class="quiet" font-size="14" fill="currentColor" aria-hidden="true">
      {#each labels(wall) as one (one.text)}
        <text x={one.x} y={one.y}>{one.text}</text>
      {/each}
    </g>
  </svg>
</div>

<style>
  .is-off {
    fill: color-mix(in oklab, var(--color-base-content) 38%, var(--color-base-100));
  }
  .frame {
    stroke: none;
  }
  .place:focus-visible .frame,
  .picked {
    stroke: currentColor;
    stroke-width: 2.5;
  }
</style>
