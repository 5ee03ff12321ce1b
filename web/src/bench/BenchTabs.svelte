<script lang="ts" module>
  export const TABS = ["backlash", "pattern", "preload", "depth", "map"] as const;
  export type Tab = (typeof TABS)[number];
</script>

<script lang="ts">
  import type { Trial, Verdict } from "../api/client";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../lib/words";

  interface Props {
    tab: Tab;
    trial: Trial;
    onpick: (tab: Tab) => void;
  }
  let { tab, trial, onpick }: Props = $props();
  const WORDS: Record<Tab, string> = {
    backlash: "Backlash",
    pattern: "Pattern",
    preload: "Preload",
    depth: "Depth",
    map: "Map",
  };
  const marks = $derived<Record<Tab, Verdict | null>>({
    backlash: trial.assessment?.verdict ?? "unknown",
    pattern: trial.pattern_verdict,
    preload: trial.pinion_torque?.verdict ?? "unknown",
    depth: null,
    map: null,
  });

  function keys(event: KeyboardEvent) {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const next = TABS[(TABS.indexOf(tab) + step + TABS.length) % TABS.length] ?? tab;
    onpick(next);
    document.getElementById(`tab-${next}`)?.focus();
  }
</script>

<div
  role="tablist"
  aria-label="What is read of this trial"
  class="border-base-content mb-4 flex overflow-x-auto border-b-2"
>
  {#each TABS as one (one)}
    <button
      id={`tab-${one}`}
      role="tab"
      type="button"
      aria-selected={one === tab}
      aria-controls="bench-panel"
      tabindex={one === tab ? 0 : -1}
      class={[
        "figure min-h-touch flex grow items-center justify-center gap-1.5 px-2 text-lg sm:grow-0 sm:px-5 sm:text-xl",
        one === tab ? "bg-base-content text-base-100" : "hover:bg-base-200",
      ]}
      onclick={() => onpick(one)}
      onkeydown={keys}
    >
      {WORDS[one]}
      {#if marks[one]}
        <span class={["max-sm:hidden", one === tab && "*:text-base-100!"]}
          ><VerdictMark verdict={marks[one]} size={18} /></span
        >
        <span class="sr-only">{VERDICT_WORDS[marks[one]]}</span>
      {/if}
    </button>
  {/each}
</div>
