<script lang="ts">
  import type { Station } from "../api/client";

  interface Props {
    state: Station["state"];
  }
  let { state }: Props = $props();
</script>

<!-- drawn about 0,0 in a 24-unit circle: dashed ring, half ring, full ring, barred triangle -->
{#if state === "not_looked_at"}
  <circle r="9" class="fill-base-100" stroke="currentColor" stroke-width="2" stroke-dasharray="3.4 2.6" />
{:else if state === "in_work"}
  <circle r="9" class="fill-base-100" stroke="currentColor" stroke-width="2" />
  <path d="M0-9A9 9 0 0 1 0 9Z" fill="currentColor" />
{:else if state === "good"}
  <circle r="10" fill="currentColor" />
  <path d="m-4.5 0 3.2 3.6L4.8-3.6" fill="none" class="stroke-base-100" stroke-width="2.6" />
{:else}
  <path d="M0-11 11.5 9h-23Z" class="fill-base-100 stroke-out" stroke-width="2.4" />
  <path d="M0-4v6.5M0 5v1" class="stroke-out" stroke-width="2.6" />
{/if}
