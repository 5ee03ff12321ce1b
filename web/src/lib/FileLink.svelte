<script lang="ts">
  import type { Snippet } from "svelte";

  import { getSession } from "./context";

  interface Props {
    href: string;
    class?: string;
    children: Snippet;
  }
  let { href, class: looks = "btn btn-plain", children }: Props = $props();
  const session = getSession();
</script>

<!-- the workshop says who takes files away; who may not is shown no way to one -->
{#if session.me?.may.export}<a class={looks} {href} download>{@render children()}</a>{/if}
