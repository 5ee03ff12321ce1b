<script lang="ts">
  import type { Verdict } from "../api/client";

  interface Props {
    verdict: Verdict;
    size?: number;
  }
  let { verdict, size = 28 }: Props = $props();

  const tone = $derived(
    { in: "text-in", edge: "text-edge", out: "text-out", unknown: "text-base-content" }[verdict],
  );
</script>

<!-- in: a filled block seated between two lines; edge: half filled, touching one; out: past it; unknown: dashed -->
<svg
  class={["inline-block shrink-0", tone]}
  width={size}
  height={size}
  viewBox="0 0 28 28"
  aria-hidden="true"
>
  <path d="M4 3v22M24 3v22" stroke="currentColor" stroke-width="2.5" />
  {#if verdict === "in"}
    <rect x="8.5" y="8" width="11" height="12" fill="currentColor" />
  {:else if verdict === "edge"}
    <rect x="13" y="8" width="11" height="12" fill="none" stroke="currentColor" stroke-width="2.5" />
    <rect x="18.5" y="8" width="5.5" height="12" fill="currentColor" />
  {:else if verdict === "out"}
    <path d="m16 8 11 12m0-12L16 20" stroke="currentColor" stroke-width="3.5" />
  {:else}
    <rect
      x="8.5"
      y="8"
      width="11"
      height="12"
      fill="none"
      stroke="currentColor"
      stroke-width="2"
      stroke-dasharray="3 2.4"
    />
  {/if}
</svg>
