<script lang="ts">
  import { tick } from "svelte";

  import type { Step as StepOut } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import type { JobOnScreen } from "./job.svelte";
  import Step from "./Step.svelte";
  import StepAct from "./StepAct.svelte";
  import StepPhotos from "./StepPhotos.svelte";
  import { left, toGo } from "./steps";

  interface Props {
    on: JobOnScreen;
  }
  let { on }: Props = $props();
  const TICK_MS = 5_000;
  const session = getSession();
  let taking = $state<string | null>(null);
  /** another step than the one in hand that is looked at */
  let looked = $state<string | null>(null);

  const steps = $derived(on.work?.steps ?? []);
  const below = $derived(`/jobs/${on.id}/work/${on.workId}`);
  const mayRecord = $derived((session.me?.may.record ?? false) && on.work?.signed_off_at === null);
  const passed = $derived(steps.filter((step) => step.state === "passed"));
  const inHand = $derived(steps.find((step) => step.is_next) ?? null);
  const shown = $derived(steps.find((step) => step.code === looked) ?? inHand);
  const running = $derived(steps.filter((step) => step.clock !== null && step.code !== shown?.code));
  const later = $derived(steps.filter((step) => step.state !== "passed" && step.code !== shown?.code));
  const then = $derived(
    later.filter((step) => inHand !== null && steps.indexOf(step) > steps.indexOf(inHand)).slice(0, 2),
  );
  let now = $state(Date.now());
  const clocks = $derived(steps.filter((step) => step.clock?.until != null));
  $effect(() => {
    if (clocks.length === 0) return;
    const every = setInterval(() => {
      const ran = clocks.some((step) => (left(step.clock, now) ?? 0) > 0);
      now = Date.now();
      // one that has just run out puts another step in hand
      if (ran && clocks.some((step) => left(step.clock, now) === 0)) void on.load();
    }, TICK_MS);
    return () => clearInterval(every);
  });
  const done = $derived(steps.length > 0 && passed.length === steps.length);

  function groups(of: StepOut[]): { name: string; steps: StepOut[] }[] {
    const found: { name: string; steps: StepOut[] }[] = [];
    for (const step of of) {
      const last = found.at(-1);
      if (last?.name === step.group) last.steps.push(step);
      else found.push({ name: step.group, steps: [step] });
    }
    return found;
  }
  async function passedOn() {
    looked = null;
    await tick();
    const field = document.querySelector<HTMLElement>(
      inHand ? ".step-in-hand :is(.btn-primary, .input, .radio)" : "#sign-here",
    );
    field?.focus();
    field?.scrollIntoView({ block: "nearest" });
  }
  /** Arrows look at the steps before and after; nothing is passed by them. */
  function keys(event: KeyboardEvent) {
    const target = event.target as Element | null;
    if (event.ctrlKey || event.metaKey || event.altKey || taking !== null) return;
    if (target?.closest("input, textarea, select, dialog")) return;
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (event.key === "Escape" && looked !== null) looked = null;
    else if (by !== undefined && shown !== null) {
      const at = steps[steps.indexOf(shown) + by];
      if (at === undefined) return;
      looked = at.code === inHand?.code ? null : at.code;
    } else return;
    event.preventDefault();
  }
</script>

<svelte:window onkeydown={keys} />
<section aria-labelledby="run-sheet">
  <div class="rule-top flex items-baseline justify-between pt-3">
    <h2 id="run-sheet">Run sheet</h2>
    <p class="quiet">{passed.length} of {steps.length} done</p>
  </div>
  <Notice text={on.wrong} />
  {#if done && on.work?.signed_off_at === null}
    <p class="my-3">
      <a id="sign-here" class="btn btn-primary" href={`${below}/sheet`}
        >Every step is done. Go to the build sheet and sign off</a
      >
    </p>
  {/if}
  {#if running.length > 0}
    <ul class="mt-2 grid gap-1" aria-label="Running">
      {#each running as step (step.code)}
        <li class="border-base-content flex flex-wrap items-baseline gap-x-3 border-l-4 pl-3">
          <button
            class="min-h-touch text-left underline underline-offset-3"
            onclick={() => (looked = step.code)}>{step.title}</button
          >
          <span class="figure text-lg">
            {#if step.clock?.until}
              {(left(step.clock, now) ?? 0) > 0
                ? `ready ${when(step.clock.until)}, ${toGo(left(step.clock, now))}`
                : "over"}
            {:else}parked{/if}
          </span>
        </li>
      {/each}
    </ul>
  {/if}
  {#if passed.length > 0}
    <details class="group mt-2">
      <summary class="min-h-touch flex cursor-pointer list-none items-center gap-3">
        <svg
          width="14"
          height="14"
          viewBox="0 0 14 14"
          class="shrink-0 group-open:rotate-90"
          aria-hidden="true"
        >
          <path d="m4 1 7 6-7 6Z" fill="currentColor" />
        </svg>
        <span class="figure text-lg">Done</span>
        <span class="quiet truncate">{passed.length}; last: {passed.at(-1)?.title}</span>
      </summary>
      {#each groups(passed) as group (group.steps[0]?.code)}
        <h3 class="mt-2">{group.name}</h3>
        <ol class="grid gap-1">
          {#each group.steps as step (step.code)}
            <Step
              {step}
              {mayRecord}
              onlook={() => (looked = step.code)}
              onundo={() => (taking = step.code)}
            />
          {/each}
        </ol>
      {/each}
    </details>
  {/if}
  {#if shown}
    {@const step = shown}
    <article
      id={`step-${step.code}`}
      class={[
        "mt-2 border-l-8 py-2 pl-4",
        step.is_next ? "step-in-hand border-base-content" : step.hold ? "border-base-content" : "border-line",
      ]}
      aria-label={step.is_next ? "The step in hand" : "A step"}
    >
      <p class="quiet flex flex-wrap items-baseline gap-x-3">
        <span>{step.group}, {steps.indexOf(step) + 1} of {steps.length}</span>
        {#if step.is_next}<span class="figure text-base-content">Next</span>
        {:else}<button class="min-h-touch -my-2 underline underline-offset-3" onclick={() => (looked = null)}
            >Back to the step in hand</button
          >{/if}
        {#if step.hold}<span class="figure text-base-content border-2 border-current px-1.5 leading-none"
            >Hold point</span
          >{/if}
      </p>
      <h3 class="figure mt-1 text-2xl leading-tight">{step.title}</h3>
      <p class="quiet mt-1">{step.why}</p>
      {#if step.caution}
        <p class="border-out bg-base-200 mt-2 border-l-4 px-3 py-1.5">
          <strong>Caution:</strong>
          {step.caution}
        </p>
      {/if}
      {#if step.state === "passed"}
        <p class="mt-3">
          Done{step.entered ? `: ${step.entered}` : ""}{step.by_name ? `, ${step.by_name}` : ""}{step.at
            ? `, ${when(step.at)}`
            : ""}.
        </p>
        {#if step.act === "choose" && mayRecord}
          <p class="label-text mt-3">Change it</p>
          {#key step.code}<StepAct {on} {step} {below} {now} onpassed={() => void passedOn()} />{/key}
        {/if}
      {:else if step.held_by}
        <p class="mt-3">Hold point: “{step.held_by}” comes first.</p>
      {:else if mayRecord}
        <div class="mt-3">
          {#key step.code}<StepAct {on} {step} {below} {now} onpassed={() => void passedOn()} />{/key}
        </div>
      {/if}
      <StepPhotos {on} {step} {mayRecord} />
    </article>
  {/if}
  {#if then.length > 0}
    <ol class="mt-2 grid gap-0.5 pl-4" aria-label="Then">
      {#each then as step (step.code)}
        <li class="quiet truncate">
          Then: {step.title}{step.hold ? " (hold point)" : ""}
        </li>
      {/each}
    </ol>
  {/if}
  {#if later.length > 0}
    <details class="group mt-2">
      <summary class="min-h-touch flex cursor-pointer list-none items-center gap-3">
        <svg
          width="14"
          height="14"
          viewBox="0 0 14 14"
          class="shrink-0 group-open:rotate-90"
          aria-hidden="true"
        >
          <path d="m4 1 7 6-7 6Z" fill="currentColor" />
        </svg>
        <span class="figure text-lg">To come</span>
        <span class="quiet">{later.length}</span>
      </summary>
      {#if mayRecord}
        <p class="flex flex-wrap gap-2">
          <a
            class="btn btn-plain btn-sm min-h-touch"
            href={`/api/v1/work/${on.workId}/run-sheet.pdf`}
            download>Print on paper</a
          >
          <a class="btn btn-plain btn-sm min-h-touch" href={`${below}/typed-in`}>Type in from paper</a>
        </p>
      {/if}
      {#each groups(later) as group (group.steps[0]?.code)}
        <h3 class="mt-2">{group.name}</h3>
        <ol class="grid gap-1">
          {#each group.steps as step (step.code)}
            <Step
              {step}
              {mayRecord}
              onlook={() => (looked = step.code)}
              onundo={() => (taking = step.code)}
            />
          {/each}
        </ol>
      {/each}
    </details>
  {/if}
</section>
{#if taking !== null}
  <ReasonDialog
    title="Undo this step"
    ask="Why? Both stay on the record."
    wrong={on.wrong}
    onclose={() => (taking = null)}
    onreason={async (reason) => {
      if (taking !== null && (await on.takeBack(taking, reason))) taking = null;
    }}
  />
{/if}
