<script lang="ts">
  import WhichShop from "../account/WhichShop.svelte";
  import { getSession } from "../lib/context";
  import NewJob from "./NewJob.svelte";

  const session = getSession();
</script>

<svelte:head><title>New job · Amber Pinion</title></svelte:head>
<h1>New job</h1>
{#if session.everywhere}
  <p class="rule-top py-6">A job belongs to one workshop. Choose it at the top first.</p>
{:else}
  <div class="mb-4"><WhichShop /></div>
  <NewJob />
{/if}
