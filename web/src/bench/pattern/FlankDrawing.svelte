<script lang="ts">
  import type { Snippet } from "svelte";

  import type { Schemas } from "../../api/client";
  import { drawn, FlankFrame, type Proportions, type Reported } from "./flank";

  interface Props {
    proportions: Proportions | null;
    label: string;
    /** what the model expects, in outline */
    model?: Schemas["FlankPatternOut"] | null;
    /** another pattern of the model, dashed: what a move would bring */
    then?: Schemas["FlankPatternOut"] | null;
    /** the patch that was read, as paint */
    seen?: Pick<Reported, "u" | "v" | "length" | "height" | "tilt_deg"> | null;
    window?: Schemas["PatchWindowOut"] | null;
    words?: boolean;
    width?: number;
    pad?: number;
    children?: Snippet<[FlankFrame]>;
    /** what lies over the drawing and may reach beyond the flank */
    over?: Snippet<[FlankFrame]>;
  }
  let {
    proportions,
    label,
    model = null,
    then = null,
    seen = null,
    window = null,
    words = true,
    width = 520,
    pad = 30,
    children,
    over,
  }: Props = $props();
  const frame = $derived(new FlankFrame(proportions, width, pad));
  const clip = $props.id();
</script>

<svg viewBox={`0 0 ${frame.width} ${frame.height}`} class="block w-full" role="img" aria-label={label}>
  <clipPath id={clip}><path d={frame.outline} /></clipPath>
  <path d={frame.outline} class="fill-base-200" />
  <g clip-path={`url(#${clip})`}>
    {#if seen && !children}<path d={frame.patch(drawn(seen))} class="fill-next" />{/if}
    {@render children?.(frame)}
  </g>
  {#if window}
    <path
      d={frame.region(window)}
      fill="none"
      stroke="currentColor"
      stroke-width="1.2"
      stroke-dasharray="2 4"
    />
    {#if words}
      {@const corner = frame.at(Math.min(window.u_max, 1), Math.max(window.v_min, 0))}
      <text
        x={corner.x - 4}
        y={corner.y + 12}
        text-anchor="end"
        class="label-text"
        font-size="13"
        fill="currentColor">window</text
      >
    {/if}
  {/if}
  {#if model}<path d={frame.model(model)} fill="none" stroke="currentColor" stroke-width="2.2" />{/if}
  {#if then}
    <path d={frame.model(then)} fill="none" stroke="currentColor" stroke-width="2.2" stroke-dasharray="8 5" />
  {/if}
  <path d={frame.outline} fill="none" stroke="currentColor" stroke-width="2.5" />
  {#if words}
    <g class="label-text" fill="currentColor" font-size="15" text-anchor="middle">
      <text x={frame.width / 2} y={frame.pad - 10}>tip</text>
      <text x={frame.width / 2} y={frame.height - frame.pad + 21}>root</text>
      <text transform={`translate(20 ${frame.height / 2}) rotate(-90)`}>toe (inner end)</text>
      <text transform={`translate(${frame.width - 12} ${frame.height / 2}) rotate(-90)`}
        >heel (outer end)</text
      >
    </g>
  {/if}
  {@render over?.(frame)}
</svg>
