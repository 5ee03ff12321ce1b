<script lang="ts" generics="Key extends string">
  import type { Verdict } from "../api/client";
  import VerdictMark from "./VerdictMark.svelte";
  import { VERDICT_WORDS } from "./words";

  interface Props {
    label: string;
    /** id of the panel that the tabs switch */
    panel: string;
    tabs: { key: Key; word: string; mark?: Verdict | null }[];
    tab: Key;
    onpick: (tab: Key) => void;
  }
  let { label, panel, tabs, tab, onpick }: Props = $props();

  function keys(event: KeyboardEvent) {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const at = tabs.findIndex((one) => one.key === tab);
    const next = tabs[(at + step + tabs.length) % tabs.length]?.key ?? tab;
    onpick(next);
    document.getElementById(`tab-${next}`)?.focus();
  }
</script>

<div role="tablist" aria-label={label} class="border-base-content mb-4 flex overflow-x-auto border-b-2">
  {#each tabs as one (one.key)}
    <button
      id={`tab-${one.key}`}
      role="tab"
      type="button"
      aria-selected={one.key === tab}
      aria-controls={panel}
      tabindex={one.key === tab ? 0 : -1}
      class={[
        "figure min-h-touch flex grow items-center justify-center gap-1.5 px-2 text-lg sm:grow-0 sm:px-5 sm:text-xl",
        one.key === tab ? "bg-base-content text-base-100" : "hover:bg-base-200",
      ]}
      onclick={() => onpick(one.key)}
      onkeydown={keys}
    >
      {one.word}
      {#if one.mark}
        <span class={["max-sm:hidden", one.key === tab && "*:text-base-100!"]}
          ><VerdictMark verdict={one.mark} size={18} /></span
        >
        <span class="sr-only">{VERDICT_WORDS[one.mark]}</span>
      {/if}
    </button>
  {/each}
</div>
