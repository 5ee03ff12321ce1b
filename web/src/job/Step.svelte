<script lang="ts">
  import type { Step } from "../api/client";
  import { when } from "../lib/quantity";
  import StepCheck from "./StepCheck.svelte";

  interface Props {
    step: Step;
    below: string;
    mayRecord: boolean;
    busy: boolean;
    onpass: (typed: string) => void;
    ontakeback: () => void;
  }
  let { step, below, mayRecord, busy, onpass, ontakeback }: Props = $props();
  let unfolded = $state(false);
  const shown = $derived(step.state !== "passed" && (step.is_next || unfolded));
</script>

<li
  class={["relative border-l-4 py-1.5 pl-4", step.hold ? "border-base-content" : "border-line"]}
  id={`step-${step.code}`}
>
  <div class="flex items-start gap-3">
    <svg width="22" height="22" viewBox="0 0 22 22" class="mt-1 shrink-0" aria-hidden="true">
      <rect x="3" y="3" width="16" height="16" fill="none" stroke="currentColor" stroke-width="2" />
      {#if step.state === "passed"}<rect x="6.5" y="6.5" width="9" height="9" fill="currentColor" />{/if}
      {#if step.state === "shut"}<path d="M0 11h22" stroke="currentColor" stroke-width="3.5" />{/if}
    </svg>
    <div class="min-w-0 grow">
      <p
        class={[
          "leading-snug",
          step.is_next ? "figure text-2xl" : "text-lg",
          step.state === "shut" && "quiet",
        ]}
      >
        {#if step.is_next}<span class="bg-next text-next-content mr-2 px-2">Next</span>{/if}{step.title}
        {#if step.hold}<span class="figure ml-1 border-2 border-current px-1.5 text-base leading-none"
            >Hold point</span
          >{/if}
        <span class="sr-only">
          {step.state === "passed"
            ? "(passed)"
            : step.state === "shut"
              ? `(after: ${step.held_by})`
              : "(open)"}
        </span>
      </p>
      {#if step.state === "passed"}
        <p class="quiet flex flex-wrap items-baseline gap-x-3 text-sm">
          <span>{[step.entered, step.by_name, step.at ? when(step.at) : ""].filter(Boolean).join(", ")}</span>
          {#if step.due}<strong>{step.due}</strong>{/if}
          {#if mayRecord && step.check !== "gear_set"}
            <button class="min-h-touch -my-2 px-1 underline underline-offset-3" onclick={ontakeback}>
              Undo<span class="sr-only">: {step.title}</span>
            </button>
          {/if}
        </p>
      {/if}
      {#if shown}
        <p class="quiet mt-1">{step.why}</p>
        {#if step.caution}
          <p class="border-out bg-base-200 mt-2 border-l-4 px-3 py-1.5">
            <strong>Caution:</strong>
            {step.caution}
          </p>
        {/if}
        {#if step.held_by}
          <p class="mt-2">Hold point: “{step.held_by}” comes first.</p>
        {:else if mayRecord}
          <div class="mt-3"><StepCheck {step} {below} {busy} {onpass} /></div>
        {/if}
      {/if}
    </div>
    {#if step.state !== "passed" && !step.is_next}
      <button
        class="btn btn-plain btn-sm min-h-touch"
        aria-expanded={unfolded}
        aria-label={`${unfolded ? "Close" : "Open"}: ${step.title}`}
        onclick={() => (unfolded = !unfolded)}>{unfolded ? "Close" : "Open"}</button
      >
    {/if}
  </div>
</li>
