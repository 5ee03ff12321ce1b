<script lang="ts">
  import { tick } from "svelte";

  import type { DiffBench } from "./bench.svelte";
  import { typedAt, type Slot } from "./values";

  interface Props {
    on: DiffBench;
    slots: Slot[];
    slot: Slot;
    onpick: (key: string) => void;
  }
  let { on, slots, slot, onpick }: Props = $props();
  const at = $derived(slots.findIndex((one) => one.key === slot.key));
  const next = $derived(slots[at + 1] ?? slots[0]);
  const refused = $derived(on.slip(slot.key));
  let field = $state<HTMLInputElement>();
  let text = $derived(typedAt(on.values, slot));

  /** The strip is at hand: the next figure replaces what stands there. */
  export async function focus() {
    await tick();
    field?.focus({ preventScroll: true });
    field?.select();
  }
  function take() {
    if (text.trim() !== typedAt(on.values, slot)) on.put(slot, text.trim());
  }
  async function step(by: number) {
    take();
    await tick();
    const to = slots[(at + by + slots.length) % slots.length];
    if (to) onpick(to.key);
    await focus();
  }
  function keys(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
    event.preventDefault();
    void step(event.key === "ArrowUp" ? -1 : 1);
  }
</script>

<form
  class="border-base-content bg-base-100 grid gap-1 border-t-4 py-1"
  aria-label="Reading"
  onsubmit={(event) => {
    event.preventDefault();
    void step(1);
  }}
>
  <div class="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-x-3 sm:grid-cols-[minmax(0,1fr)_12rem_auto]">
    <label for="diff-reading" class="figure text-lg leading-tight max-sm:col-span-2 sm:text-xl"
      >{slot.label}</label
    >
    <span class="border-next flex min-w-0 items-baseline gap-1 border-b-4">
      <input
        id="diff-reading"
        data-strip
        bind:this={field}
        class="figure w-full min-w-0 bg-transparent text-2xl outline-none"
        inputmode={slot.field.kind === "stack" ? "text" : "decimal"}
        autocomplete="off"
        maxlength="40"
        bind:value={text}
        aria-invalid={refused !== null}
        aria-describedby="diff-reading-said"
        onchange={take}
        onfocus={() => field?.select()}
        onkeydown={keys}
      />
      <span class="figure text-xl whitespace-nowrap" aria-hidden="true">{slot.field.unit}</span>
    </span>
    <button class="btn btn-neutral">Record</button>
  </div>
  <p id="diff-reading-said" class={["text-sm", refused ? "text-out font-semibold" : "quiet"]} role="status">
    {#if refused}{refused}{:else}
      {#if slot.field.hint}{slot.field.hint}{/if}
      {#if next && next.key !== slot.key}<span class="max-sm:hidden"
          >Enter goes on to {next.label.charAt(0).toLowerCase()}{next.label.slice(1)}.</span
        >{/if}
    {/if}
  </p>
</form>
