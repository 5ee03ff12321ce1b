<script lang="ts">
  import type { Step } from "../api/client";
  import { when } from "../lib/quantity";
  import VerdictMark from "../lib/VerdictMark.svelte";

  interface Props {
    step: Step;
    mayRecord: boolean;
    onlook: () => void;
    onundo: () => void;
  }
  let { step, mayRecord, onlook, onundo }: Props = $props();
  const LEFT: Partial<Record<NonNullable<Step["outcome"]>, string>> = {
    skipped: "skipped",
    cut_short: "cut short",
  };
  const said = $derived(
    [
      step.outcome ? LEFT[step.outcome] : "",
      step.entered,
      step.note,
      step.by_name,
      step.at ? when(step.at) : "",
    ]
      .filter(Boolean)
      .join(", "),
  );
</script>

<li class={["border-l-4 pl-3", step.hold ? "border-base-content" : "border-line"]}>
  <div class="flex items-start gap-3">
    <svg width="20" height="20" viewBox="0 0 22 22" class="mt-3 shrink-0" aria-hidden="true">
      <rect x="3" y="3" width="16" height="16" fill="none" stroke="currentColor" stroke-width="2" />
      {#if step.state === "passed"}<rect x="6.5" y="6.5" width="9" height="9" fill="currentColor" />{/if}
      {#if step.state === "shut"}<path d="M0 11h22" stroke="currentColor" stroke-width="3.5" />{/if}
    </svg>
    <div class="min-w-0 grow">
      <button
        class={["min-h-touch py-1 text-left leading-snug", step.state === "shut" && "quiet"]}
        onclick={onlook}
      >
        {step.title}
        {#if step.hold}<span class="figure ml-1 border border-current px-1 text-sm leading-none"
            >Hold point</span
          >{/if}
        <span class="sr-only">
          {step.state === "passed"
            ? "(passed)"
            : step.state === "shut"
              ? `(after: ${step.held_by})`
              : "(open)"}
        </span>
      </button>
      {#if step.state === "passed"}
        <p class="quiet flex flex-wrap items-center gap-x-3 text-sm">
          <span>{said}</span>
          {#each step.asks.filter((ask) => ask.entered && ask.verdict !== "unknown") as ask (ask.name)}
            <span class="inline-flex items-center gap-1"
              ><VerdictMark verdict={ask.verdict} size={18} />{ask.beside ?? ""}</span
            >
          {/each}
          {#if step.due}<strong>{step.due}</strong>{/if}
          {#if mayRecord && step.measure !== "gear_set"}
            <button class="min-h-touch -my-2 px-1 underline underline-offset-3" onclick={onundo}>
              Undo<span class="sr-only">: {step.title}</span>
            </button>
          {/if}
        </p>
      {/if}
    </div>
  </div>
</li>
