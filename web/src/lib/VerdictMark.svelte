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
  width={(size * 34) / 28}
  height={size}
  viewBox="0 0 34 28"
  aria-hidden="true"
>
  <path d="M3 3v22M20 3v22" stroke="currentColor" stroke-width="2.5" />
  {#if verdict === "in"}
    <rect x="7" y="8" width="9" height="12" fill="currentColor" />
  {:else if verdict === "edge"}
    <rect x="11" y="8" width="9" height="12" fill="none" stroke="currentColor" stroke-width="2.5" />
    <rect x="15.5" y="8" width="4.5" height="12" fill="currentColor" />
  {:else if verdict === "out"}
    <path d="m23.5 9.5 9 9m0-9-9 9" stroke="currentColor" stroke-width="3.5" />
  {:else}
    <rect
      x="7"
      y="8"
      width="9"
      height="12"
      fill="none"
      stroke="currentColor"
      stroke-width="2"
      stroke-dasharray="3 2.4"
    />
  {/if}
</svg>
