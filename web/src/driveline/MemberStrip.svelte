<script lang="ts">
  import { tick } from "svelte";
  import { typedNumber } from "../lib/typed-number";
  import type { Unit } from "../lib/units";
  import { fieldOf, gaugeOf, optional, put, valueOf, type Ask } from "./asks";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    asks: Ask[];
    ask: Ask;
    size: Unit;
    onpick: (ask: Ask) => void;
  }
  let { on, inputs, asks, ask, size, onpick }: Props = $props();
  const readings = $derived(inputs.readings);
  const gauge = $derived(gaugeOf(readings, ask));
  const per = $derived(ask.kind === "slope" ? 1 : size.per);
  const unit = $derived(ask.kind === "slope" ? "°" : size.name);
  const places = $derived(ask.kind === "slope" ? 2 : size.digits);
  const value = $derived(valueOf(readings, ask));
  const shown = $derived(value === null ? "" : String(Number((value * per).toFixed(places))));
  const at = $derived(asks.findIndex((one) => one.key === ask.key));
  let wrong = $state("");
  let field: HTMLInputElement | undefined = $state();
  const refused = $derived(on.field !== "" && on.field.startsWith(fieldOf(readings, ask)) ? on.wrong : null);
  const ENDS = [
    { key: "lower", word: "axle end lower" },
    { key: "higher", word: "higher" },
    { key: null, word: "by sign" },
  ] as const;

  /** The strip is at hand: the next figure replaces what stands there. */
  export async function focus() {
    await tick();
    field?.focus({ preventScroll: true });
    field?.select();
  }
  $effect(() => {
    void ask.key;
    wrong = "";
    if (document.activeElement === field) field?.select();
  });

  /** Take what was typed; false when it is no figure. */
  function take(): boolean {
    const text = field?.value ?? "";
    wrong = "";
    if (text.trim() === shown) return true;
    const found = typedNumber(text);
    if (found === null && !(text.trim() === "" && optional(ask))) {
      wrong = text.trim() === "" ? "Enter a number." : `“${text}” is not a number.`;
      return false;
    }
    on.set(() => put(readings, ask, found === null ? null : found / per));
    return true;
  }
  async function step(by: number) {
    if (!take()) return;
    const to = asks[(at + by + asks.length) % asks.length];
    if (to) onpick(to);
    await focus();
  }
  function set(change: Partial<NonNullable<typeof gauge>>) {
    if (gauge) on.set(() => Object.assign(gauge, change));
  }
  function keys(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    if (event.key === "ArrowUp" || event.key === "ArrowDown") void step(event.key === "ArrowUp" ? -1 : 1);
    else if (gauge && key === "l") set({ axle_end: "lower" });
    else if (gauge && key === "h") set({ axle_end: "higher" });
    else if (gauge && key === "p") set({ reference: gauge.reference === "plumb" ? "level" : "plumb" });
    else return;
    event.preventDefault();
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
  <div class="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-x-3 sm:grid-cols-[minmax(0,1fr)_11rem_auto]">
    <label for="member-reading" class="figure text-lg leading-tight max-sm:col-span-2 sm:text-xl"
      >{ask.label}</label
    >
    <span class="border-next flex min-w-0 items-baseline gap-1 border-b-4">
      <input
        id="member-reading"
        data-strip
        bind:this={field}
        class="figure w-full min-w-0 bg-transparent text-2xl outline-none"
        inputmode="text"
        autocomplete="off"
        value={shown}
        aria-invalid={wrong !== "" || refused !== null}
        aria-describedby="member-reading-said"
        onchange={take}
        onfocus={() => field?.select()}
        onkeydown={keys}
      />
      <span class="figure text-xl" aria-hidden="true">{unit}</span>
    </span>
    <button class="btn btn-neutral">Record</button>
  </div>
  {#if gauge}
    <div class="flex flex-wrap gap-x-4 gap-y-1">
      <span class="join" role="radiogroup" aria-label="Read from">
        {#each ["level", "plumb"] as const as one (one)}
          <input
            class="join-item btn btn-plain choice px-2"
            type="radio"
            name="reference"
            aria-label={`from ${one}`}
            checked={gauge.reference === one}
            onchange={() => set({ reference: one })}
          />
        {/each}
      </span>
      <span class="join" role="radiogroup" aria-label="Axle end">
        {#each ENDS as one (one.word)}
          <input
            class="join-item btn btn-plain choice px-2"
            type="radio"
            name="axle-end"
            aria-label={one.word}
            checked={(gauge.axle_end ?? null) === one.key}
            onchange={() => set({ axle_end: one.key })}
          />
        {/each}
      </span>
    </div>
  {/if}
  <p
    id="member-reading-said"
    class={["text-sm", wrong || refused ? "text-out font-semibold" : "quiet"]}
    role="status"
  >
    {#if wrong || refused}{wrong || refused}{:else}
      <span>Enter goes on to {asks[(at + 1) % asks.length]?.label.toLowerCase()}.</span>
      {#if gauge}<span class="max-sm:hidden"
          ><kbd>L</kbd> lower, <kbd>H</kbd> higher, <kbd>P</kbd> plumb.</span
        >{/if}
    {/if}
  </p>
</form>
