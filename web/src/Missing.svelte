<svelte:head><title>No such page · Amber Pinion</title></svelte:head>
<h1>There is no such page</h1>
<p class="mt-2">The address may have been typed wrong. <a href="/">Go to the Floor</a>.</p>
