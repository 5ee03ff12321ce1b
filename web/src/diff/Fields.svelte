<script lang="ts">
  import type { DiffBench } from "./bench.svelte";
  import OneField from "./OneField.svelte";
  import PlatesField from "./PlatesField.svelte";
  import RowsField from "./RowsField.svelte";
  import type { Field } from "./values";

  interface Props {
    on: DiffBench;
    fields: Field[];
    /** plates that stand wrongly, from 0 */
    bad: number[];
  }
  let { on, fields, bad }: Props = $props();
  const text = (name: string) => {
    const typed = on.values[name];
    return typeof typed === "string" ? typed : "";
  };
</script>

<div class="grid gap-x-5 gap-y-3 sm:grid-cols-2">
  {#each fields as field (field.name)}
    {#if field.columns.some((column) => column.name === "keyed")}
      <PlatesField {on} {field} bad={field.name === "plates" ? bad : []} />
    {:else if field.columns.length > 0}
      <RowsField {on} {field} />
    {:else}
      <OneField
        {field}
        value={text(field.name)}
        slip={on.slip(field.name)}
        source={field.source}
        onset={(value) => on.set(field.name, value)}
      />
    {/if}
  {/each}
</div>
