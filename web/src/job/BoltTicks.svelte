<script lang="ts">
  import { untrack } from "svelte";

  interface Props {
    count: number | null;
    next: boolean;
    busy: boolean;
    onall: (ticked: number) => void;
  }
  let { count, next, busy, onall }: Props = $props();
  let ticks = $state<boolean[]>(untrack(() => Array.from({ length: count ?? 12 }, () => false)));
  const ticked = $derived(ticks.filter(Boolean).length);
</script>

<fieldset>
  <legend class="label-text mb-1">
    {`${count === null ? "Tick each bolt when it is torqued" : `Tick each of ${count} bolts when it is torqued`}: ${ticked} done`}
  </legend>
  <div class="flex flex-wrap gap-1">
    {#each ticks, index (index)}
      <label
        class="figure size-touch border-base-content has-checked:bg-base-content has-checked:text-base-100 grid cursor-pointer place-items-center border-2 text-lg has-focus-visible:outline-3 has-focus-visible:outline-offset-2"
      >
        <input class="sr-only" type="checkbox" aria-label={`Bolt ${index + 1}`} bind:checked={ticks[index]} />
        {index + 1}
      </label>
    {/each}
  </div>
  <button
    class={["btn mt-3", next ? "btn-primary" : "btn-neutral"]}
    disabled={busy}
    onclick={() => onall(ticked)}
  >
    Confirm
  </button>
</fieldset>
