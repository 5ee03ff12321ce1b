<script lang="ts">
  import type { Snippet } from "svelte";

  interface Props {
    label: string;
    hint?: string;
    children: Snippet;
  }
  let { label, hint, children }: Props = $props();
</script>

<label class="grid content-start gap-1">
  <span class="label-text">{label}</span>
  {@render children()}
  {#if hint}<span class="quiet text-sm">{hint}</span>{/if}
</label>
