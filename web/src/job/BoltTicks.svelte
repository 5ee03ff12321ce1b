<script lang="ts">
  import { untrack } from "svelte";

  interface Props {
    count: number | null;
    /** bolt numbers round the circle, in tightening order; empty where nobody knows how many there are */
    order?: number[];
    next: boolean;
    busy: boolean;
    onall: (ticked: number) => void;
  }
  let { count, order = [], next, busy, onall }: Props = $props();
  let ticks = $state<boolean[]>(untrack(() => Array.from({ length: count ?? 12 }, () => false)));
  const ticked = $derived(ticks.filter(Boolean).length);
  const drawn = $derived(count !== null && count >= 3 && order.length === count);
  /** Where the bolt that is tightened so manieth stands, from 0 to 100 of the drawing. */
  const place = (at: number) => {
    const turn = (2 * Math.PI * ((order[at] ?? 1) - 1)) / (count ?? 1);
    return { x: 50 + 40 * Math.sin(turn), y: 50 - 40 * Math.cos(turn) };
  };
  const size = $derived((count ?? 0) > 12 ? "22rem" : "16rem");
</script>

<fieldset>
  <legend class="label-text mb-1">
    {`${count === null ? "Tick each bolt when it is torqued" : `Tick each of ${count} bolts when it is torqued, in this order`}: ${ticked} done`}
  </legend>
  <div
    class={drawn ? "border-line relative max-w-full rounded-full border-2" : "flex flex-wrap gap-1"}
    style:width={drawn ? size : undefined}
    style:aspect-ratio={drawn ? "1" : undefined}
  >
    {#each ticks, index (index)}
      {@const at = place(index)}
      <label
        class={[
          "figure size-touch border-base-content bg-base-100 has-checked:bg-base-content has-checked:text-base-100 grid cursor-pointer place-items-center border-2 text-lg has-focus-visible:outline-3 has-focus-visible:outline-offset-2",
          drawn && "absolute -translate-x-1/2 -translate-y-1/2 rounded-full",
        ]}
        style:left={drawn ? `${at.x}%` : undefined}
        style:top={drawn ? `${at.y}%` : undefined}
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
