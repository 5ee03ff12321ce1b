<script lang="ts">
  import type { DiffBench } from "./bench.svelte";
  import { typedAt, type Slot } from "./values";

  interface Props {
    on: DiffBench;
    slots: Slot[];
    picked: string;
    onpick: (key: string) => void;
  }
  let { on, slots, picked, onpick }: Props = $props();
</script>

<ul class="grid gap-x-6 sm:grid-cols-2" aria-label="Readings">
  {#each slots as slot (slot.key)}
    {@const typed = typedAt(on.values, slot)}
    {@const slip = on.slip(slot.key)}
    <li class="border-line border-b">
      <button
        type="button"
        class={[
          "min-h-touch flex w-full items-center justify-between gap-3 border-l-4 px-2 text-left",
          slot.key === picked ? "border-next bg-base-200" : "hover:bg-base-200 border-transparent",
        ]}
        aria-current={slot.key === picked ? "true" : undefined}
        onclick={() => onpick(slot.key)}
      >
        <span
          >{slot.short}{#if !slot.field.needed && typed === ""}<span class="quiet">&nbsp;(if known)</span
            >{/if}</span
        >
        <span class={["figure text-lg whitespace-nowrap", slip && "text-out"]}
          >{typed === "" ? "–" : typed}{#if /^[-+\d.,]+$/.test(typed)}<span class="quiet text-sm"
              >&nbsp;{slot.field.unit}</span
            >{/if}</span
        >
      </button>
    </li>
  {/each}
</ul>
