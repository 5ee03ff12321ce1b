<script lang="ts">
  import { ask, client, sentence, type Family } from "../api/client";
  import StateMark from "../floor/StateMark.svelte";
  import { getSession } from "../lib/context";
  import Dialog from "../lib/Dialog.svelte";
  import Notice from "../lib/Notice.svelte";
  import { navigate } from "../routes";
  import type { JobOnScreen } from "./job.svelte";
  import { kindsFor, type Kinds, type Place } from "./kinds";
  import WorkPick from "./WorkPick.svelte";

  interface Props {
    on: JobOnScreen;
  }
  let { on }: Props = $props();
  const session = getSession();
  const works = $derived(on.job?.works ?? []);
  const mayAdd = $derived((session.me?.may.edit_job ?? false) && on.job?.signed_off_at === null);
  let adding = $state(false);
  let families = $state.raw<Family[]>([]);
  let kinds = $state.raw<Kinds | null>(null);
  let kind = $state("ring_and_pinion");
  let place = $state<Place | "">("");
  let family = $state("");
  let wrong = $state<string | null>(null);

  async function begin() {
    adding = true;
    const found = await kindsFor(on.job?.complaint ?? "");
    kinds = found;
    kind = found?.pointed_at[0] ?? "ring_and_pinion";
    const answer = await ask(client.GET("/api/v1/families"));
    if (answer.kind === "done") families = answer.value;
    else wrong = sentence(answer);
  }
  async function add(event: SubmitEvent) {
    event.preventDefault();
    if (place === "") return;
    const booked = await on.addWork(kind, place, family);
    wrong = booked === null ? on.wrong : null;
    if (booked === null) return;
    adding = false;
    await navigate("/jobs/:id/work/:work", { params: { id: on.id, work: booked } });
  }
</script>

<section class="mt-3 max-lg:order-1" aria-labelledby="works">
  <h2 id="works" class="sr-only">Work on this job</h2>
  <div class={["flex items-start gap-x-4 gap-y-1", works.length > 1 && "flex-wrap"]}>
    <ul class={["grid min-w-0 grow gap-x-6", works.length > 1 && "sm:grid-cols-2"]}>
      {#each works as one (one.id)}
        <li class="border-line border-b">
          <a
            class={[
              "min-h-touch grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-1 pl-3",
              one.id === on.workId ? "border-base-content border-l-4" : "border-l-4 border-transparent",
            ]}
            aria-current={one.id === on.workId ? "true" : undefined}
            href={`/jobs/${on.id}/work/${one.id}`}
          >
            <span class="min-w-0">
              <span class="figure block text-lg leading-tight">{one.title}</span>
              {#if works.length > 1}<span class="quiet block truncate text-sm">{one.next_action}</span>{/if}
            </span>
            <StateMark state={one.state} word={one.state_word} />
          </a>
        </li>
      {/each}
    </ul>
    {#if mayAdd}<button class="btn btn-plain btn-sm min-h-touch" onclick={() => void begin()}>Add work</button
      >{/if}
  </div>
</section>
{#if adding}
  <Dialog title="Add work to this job" onclose={() => (adding = false)}>
    <form class="grid gap-4" onsubmit={add}>
      <p>It gets its own run sheet and sign-off.</p>
      {#if kinds && on.job}
        <WorkPick {kinds} {families} layout={on.job.layout} bind:kind bind:place bind:family />
      {/if}
      <Notice text={wrong} />
      <div class="flex gap-2">
        <button class="btn btn-neutral" disabled={on.busy}>Add</button>
        <button type="button" class="btn btn-plain" onclick={() => (adding = false)}>Cancel</button>
      </div>
    </form>
  </Dialog>
{/if}
