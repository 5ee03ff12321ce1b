<script lang="ts">
  import { tick } from "svelte";

  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import type { JobOnScreen } from "./job.svelte";
  import Step from "./Step.svelte";

  interface Props {
    on: JobOnScreen;
  }
  let { on }: Props = $props();
  const session = getSession();
  let taking = $state<string | null>(null);

  const steps = $derived(on.work?.steps ?? []);
  // what is passed folds away, so that what comes next is in sight
  const groups = $derived(
    [...new Set(steps.map((step) => step.group))].map((name) => {
      const its = steps.filter((step) => step.group === name);
      const passed = its.filter((step) => step.state === "passed").length;
      return { name, steps: its, passed, open: its.some((step) => step.is_next) };
    }),
  );
  const mayRecord = $derived((session.me?.may.record ?? false) && on.work?.signed_off_at === null);
  const done = $derived(steps.filter((step) => step.state === "passed").length);

  async function pass(code: string, typed: string) {
    if (!(await on.pass(code, typed))) return;
    await tick();
    const upcoming = on.work?.steps.find((step) => step.is_next);
    const field = document.querySelector<HTMLElement>(
      upcoming ? `#step-${upcoming.code} :is(.btn-primary, input)` : "#sign-here",
    );
    field?.focus();
  }
</script>

<section aria-labelledby="run-sheet">
  <div class="rule-top flex items-baseline justify-between pt-3">
    <h2 id="run-sheet">Run sheet</h2>
    <p class="quiet">{done} of {steps.length} done</p>
  </div>
  <Notice text={on.wrong} />
  {#if steps.length > 0 && done === steps.length && on.work?.signed_off_at === null}
    <p class="my-3">
      <a id="sign-here" class="btn btn-primary" href={`/jobs/${on.id}/work/${on.workId}/sheet`}
        >Every step is done. Go to the build sheet and sign off</a
      >
    </p>
  {/if}
  <div class="flex flex-wrap gap-x-8">
    {#each groups as group (group.name)}
      <details class={["group open:basis-full", group.open && "max-lg:-order-1"]} open={group.open}>
        <summary class="min-h-touch mt-2 flex cursor-pointer list-none items-center gap-3">
          <svg
            width="14"
            height="14"
            viewBox="0 0 14 14"
            class="shrink-0 group-open:rotate-90"
            aria-hidden="true"
          >
            <path d="m4 1 7 6-7 6Z" fill="currentColor" />
          </svg>
          <h3>{group.name}</h3>
          <span class="quiet">{group.passed} of {group.steps.length}</span>
        </summary>
        <ol class="grid gap-1 pb-2">
          {#each group.steps as step (step.code)}
            <Step
              {step}
              below={`/jobs/${on.id}/work/${on.workId}`}
              {mayRecord}
              busy={on.busy}
              onpass={(typed) => void pass(step.code, typed)}
              ontakeback={() => (taking = step.code)}
            />
          {/each}
        </ol>
      </details>
    {/each}
  </div>
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
