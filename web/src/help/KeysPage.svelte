<script lang="ts">
  import KeyList from "./KeyList.svelte";
</script>

<svelte:head><title>Keys · Amber Pinion</title></svelte:head>
<div class="mb-4 flex flex-wrap items-center gap-x-6">
  <h1>Keys</h1>
  <button class="btn btn-plain no-print" onclick={() => print()}>Print</button>
</div>
<KeyList all path={location.pathname} />
