<script lang="ts">
  import { untrack } from "svelte";

  import type { Schemas } from "../api/client";

  interface Props {
    /** as the sheet has them; null where nobody knows how many there are */
    fastener: Pick<
      Schemas["StepFastenerOut"],
      "count" | "sides" | "order" | "layout" | "left_hand" | "one_time_use"
    > | null;
    next: boolean;
    busy: boolean;
    onall: (ticked: number) => void;
  }
  let { fastener, next, busy, onall }: Props = $props();
  const count = $derived(fastener?.count ?? 12);
  const sides = $derived(fastener?.sides ?? 1);
  const all = $derived(count * sides);
  let ticks = $state<boolean[]>(
    untrack(() => Array.from({ length: (fastener?.count ?? 12) * (fastener?.sides ?? 1) }, () => false)),
  );
  const ticked = $derived(ticks.filter(Boolean).length);
  const drawn = $derived(fastener?.layout === "circle" && fastener.count >= 3);
  /** Where the bolt that is tightened so manieth stands, from 0 to 100 of the drawing. */
  const place = (at: number) => {
    const turn = (2 * Math.PI * ((fastener?.order[at] ?? 1) - 1)) / count;
    return { x: 50 + 40 * Math.sin(turn), y: 50 - 40 * Math.cos(turn) };
  };
  const size = $derived(count > 12 ? "22rem" : "16rem");
  const SIDES = ["Left", "Right"] as const;
</script>

<fieldset>
  <legend class="label-text mb-1">
    {`${fastener === null ? "Tick each bolt when it is torqued" : `Tick each of ${all} bolts when it is torqued, in this order`}: ${ticked} done`}
  </legend>
  <div class="flex flex-wrap gap-x-6 gap-y-3">
    {#each { length: sides }, side (side)}
      <div>
        {#if sides > 1}<p class="figure mb-1 text-lg">{SIDES[side]}</p>{/if}
        <div
          class={drawn ? "border-line relative max-w-full rounded-full border-2" : "flex flex-wrap gap-1"}
          style:width={drawn ? size : undefined}
          style:aspect-ratio={drawn ? "1" : undefined}
        >
          {#each { length: count }, index (index)}
            {@const at = place(index)}
            <label
              class={[
                "figure size-touch border-base-content bg-base-100 has-checked:bg-base-content has-checked:text-base-100 grid cursor-pointer place-items-center border-2 text-lg has-focus-visible:outline-3 has-focus-visible:outline-offset-2",
                drawn && "absolute -translate-x-1/2 -translate-y-1/2 rounded-full",
              ]}
              style:left={drawn ? `${at.x}%` : undefined}
              style:top={drawn ? `${at.y}%` : undefined}
            >
              <input
                class="sr-only"
                type="checkbox"
                aria-label={sides > 1 ? `${SIDES[side]} bolt ${index + 1}` : `Bolt ${index + 1}`}
                bind:checked={ticks[side * count + index]}
              />
              {index + 1}
            </label>
          {/each}
        </div>
      </div>
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
