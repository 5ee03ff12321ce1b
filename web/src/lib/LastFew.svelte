<script lang="ts" generics="One">
  import type { Snippet } from "svelte";

  interface Props {
    all: One[];
    /** how many are shown until somebody asks for all */
    few?: number;
    what: string;
    children: Snippet<[One[]]>;
  }
  let { all, few = 4, what, children }: Props = $props();
  let open = $state(false);
  const shown = $derived(open ? all : all.slice(-few));
</script>

{#if all.length > few}
  <button class="min-h-touch underline underline-offset-3" aria-expanded={open} onclick={() => (open = !open)}
    >{open ? `Show the last ${few} ${what}` : `Show all ${all.length} ${what}`}</button
  >
{/if}
{@render children(shown)}
