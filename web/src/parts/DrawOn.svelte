<script lang="ts">
  import type { Schemas } from "../api/client";

  type Shape = Schemas["DrawnIn"];
  interface Props {
    src: string;
    alt: string;
    drawn: Shape[];
    /** draw with mouse, finger or pen; without it the picture is only shown */
    ondrawn?: (drawn: Shape[]) => void;
  }
  let { src, alt, drawn, ondrawn }: Props = $props();
  let tool = $state<Shape["shape"]>("ring");
  let now = $state<Shape | null>(null);
  let size = $state({ w: 4, h: 3 });
  const shown = $derived(now ? [...drawn, now] : drawn);

  function at(event: PointerEvent): { x: number; y: number } {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const share = (one: number) => Math.min(Math.max(one, 0), 1);
    return {
      x: share((event.clientX - box.left) / box.width),
      y: share((event.clientY - box.top) / box.height),
    };
  }
  function begin(event: PointerEvent) {
    if (!ondrawn) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const { x, y } = at(event);
    now = { shape: tool, x, y, to_x: x, to_y: y };
  }
  function move(event: PointerEvent) {
    if (!now) return;
    const { x, y } = at(event);
    now = { ...now, to_x: x, to_y: y };
  }
  function end() {
    if (now && Math.hypot(now.to_x - now.x, now.to_y - now.y) > 0.015) ondrawn?.([...drawn, now]);
    now = null;
  }
  /** head of an arrow, in the picture's own shape */
  function head(one: Shape): string {
    const [x, y] = [one.to_x * size.w, one.to_y * size.h];
    const way = Math.atan2(y - one.y * size.h, x - one.x * size.w);
    const long = 0.05 * Math.max(size.w, size.h);
    const side = (turn: number) => `${x - long * Math.cos(way + turn)} ${y - long * Math.sin(way + turn)}`;
    return `M${side(0.45)} L${x} ${y} L${side(-0.45)}`;
  }
  const thick = $derived(0.008 * Math.max(size.w, size.h));
</script>

<div class="grid gap-2">
  <div class="relative">
    <img
      {src}
      {alt}
      class="block w-full"
      draggable="false"
      onload={(event) => {
        const found = event.currentTarget as HTMLImageElement;
        if (found.naturalWidth > 0) size = { w: found.naturalWidth, h: found.naturalHeight };
      }}
    />
    <svg
      viewBox={`0 0 ${size.w} ${size.h}`}
      class={["absolute inset-0 h-full w-full", ondrawn && "cursor-crosshair touch-none"]}
      role="img"
      aria-label={drawn.length > 0
        ? `${drawn.length} marked on the picture`
        : "Nothing marked on the picture"}
      onpointerdown={begin}
      onpointermove={move}
      onpointerup={end}
      onpointercancel={() => (now = null)}
    >
      {#each shown as one, index (index)}
        {#each ["stroke-black", "stroke-primary"] as colour, layer (colour)}
          <g class={colour} fill="none" stroke-width={layer === 0 ? thick * 2 : thick}>
            {#if one.shape === "ring"}
              <circle
                cx={one.x * size.w}
                cy={one.y * size.h}
                r={Math.hypot((one.to_x - one.x) * size.w, (one.to_y - one.y) * size.h)}
              />
            {:else}
              <path
                d={`M${one.x * size.w} ${one.y * size.h} L${one.to_x * size.w} ${one.to_y * size.h} ${head(one)}`}
              />
            {/if}
          </g>
        {/each}
      {/each}
    </svg>
  </div>
  {#if ondrawn}
    <div class="flex flex-wrap gap-2" role="group" aria-label="Mark on the picture">
      {#each [["ring", "Ring"], ["arrow", "Arrow"]] as const as [shape, word] (shape)}
        <button
          type="button"
          class={["btn btn-sm", tool === shape ? "btn-neutral" : "btn-plain"]}
          aria-pressed={tool === shape}
          onclick={() => (tool = shape)}>{word}</button
        >
      {/each}
      <button
        type="button"
        class="btn btn-plain btn-sm"
        onclick={() => ondrawn([...drawn, { shape: tool, x: 0.5, y: 0.5, to_x: 0.65, to_y: 0.5 }])}
        >Add one in the middle</button
      >
      <button
        type="button"
        class="btn btn-plain btn-sm"
        disabled={drawn.length === 0}
        onclick={() => ondrawn(drawn.slice(0, -1))}>Remove the last</button
      >
    </div>
  {/if}
</div>
