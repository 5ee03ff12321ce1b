<svelte:head><title>Page not found · Amber Pinion</title></svelte:head>
<h1>Page not found</h1>
<p class="mt-2">The address may have been mistyped. <a href="/">Go to the Floor</a>.</p>
