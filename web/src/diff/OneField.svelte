<script lang="ts">
  import type { Column } from "./values";

  interface Props {
    field: Column;
    value: string;
    slip?: string | null;
    /** where the sheet has it */
    source?: string;
    /** in a table: the label stands above the column */
    bare?: string;
    onset: (value: string) => void;
  }
  let { field, value, slip = null, source = "", bare = "", onset }: Props = $props();
  const id = $props.id();
  const label = $derived(bare || (field.unit ? `${field.label} (${field.unit})` : field.label));
  const said = $derived(slip ?? (source ? `Sheet: ${source}` : bare ? "" : field.hint));
</script>

{#if field.kind === "flag"}
  <label class="min-h-touch flex cursor-pointer items-center gap-3">
    <input
      type="checkbox"
      class="checkbox"
      checked={value === "yes"}
      onchange={(event) => onset(event.currentTarget.checked ? "yes" : "no")}
    />
    <span>{field.label}</span>
  </label>
{:else}
  <div class="grid content-start gap-1">
    <label for={id} class={bare ? "sr-only" : "label-text"}>{label}</label>
    {#if field.kind === "choice"}
      <select {id} class="select w-full" {value} onchange={(event) => onset(event.currentTarget.value)}>
        {#if field.begin === ""}<option value="">–</option>{/if}
        {#each field.options as one (one.code)}<option value={one.code}>{one.label}</option>{/each}
      </select>
    {:else}
      <input
        {id}
        class={["input figure w-full min-w-24 text-lg", slip && "border-out"]}
        inputmode={field.kind === "stack" ? "text" : "decimal"}
        autocomplete="off"
        maxlength="60"
        {value}
        aria-invalid={slip !== null}
        aria-describedby={said ? `${id}-said` : undefined}
        onchange={(event) => onset(event.currentTarget.value.trim())}
      />
    {/if}
    {#if said}<span id={`${id}-said`} class={["text-sm", slip ? "text-out font-semibold" : "quiet"]}
        >{said}</span
      >{/if}
  </div>
{/if}
