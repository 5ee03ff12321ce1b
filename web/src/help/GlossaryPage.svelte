<script lang="ts">
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { findTerms } from "./find";
  import Glossary from "./Glossary.svelte";

  let search = $state("");
  let terms = $state.raw<Awaited<ReturnType<typeof findTerms>>>([]);
  let asked = 0;
  $effect(() => {
    const mine = ++asked;
    void findTerms(search).then((found) => {
      if (mine === asked) terms = found;
    });
  });
</script>

<svelte:head><title>Glossary · Amber Pinion</title></svelte:head>
<h1 class="mb-3">Glossary</h1>
<div class="mb-5 max-w-md">
  <Field label="Term, in any spelling"
    ><input class="input w-full" type="search" maxlength="100" bind:value={search} /></Field
  >
</div>
{#if terms === null}<Notice text="The connection is lost. Try again when it is back." />
{:else if terms.length === 0}<p>No term matches.</p>
{:else}<Glossary {terms} heading="h2" />{/if}
