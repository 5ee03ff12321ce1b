<script lang="ts">
  import { ask, client, sentence, type Family } from "../api/client";
  import StateMark from "../floor/StateMark.svelte";
  import { getSession } from "../lib/context";
  import Dialog from "../lib/Dialog.svelte";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { navigate } from "../routes";
  import type { JobOnScreen } from "./job.svelte";

  interface Props {
    on: JobOnScreen;
  }
  let { on }: Props = $props();
  const session = getSession();
  const works = $derived(on.job?.works ?? []);
  // an axle that is booked already is not offered twice
  const free = $derived(
    (["front", "rear"] as const).filter(
      (end) =>
        on.job?.stations.some((one) => one.place === `${end}_axle`) &&
        !works.some((one) => one.axle === end && one.kind === "ring_and_pinion"),
    ),
  );
  const mayAdd = $derived(
    (session.me?.may.edit_job ?? false) && on.job?.signed_off_at === null && free.length > 0,
  );
  let adding = $state(false);
  let families = $state.raw<Family[]>([]);
  let axle = $state<"front" | "rear">("front");
  let family = $state("");
  let wrong = $state<string | null>(null);

  async function begin() {
    adding = true;
    axle = free[0] ?? "rear";
    const answer = await ask(client.GET("/api/v1/families"));
    if (answer.kind === "done") families = answer.value;
    else wrong = sentence(answer);
  }
  async function add(event: SubmitEvent) {
    event.preventDefault();
    const booked = await on.addWork(axle, family);
    wrong = booked === null ? on.wrong : null;
    if (booked === null) return;
    adding = false;
    await navigate("/jobs/:id/work/:work", { params: { id: on.id, work: booked } });
  }
</script>

{#if works.length > 1 || mayAdd}
  <section class="mt-5" aria-labelledby="works">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <h2 id="works" class={works.length > 1 ? "" : "sr-only"}>Work on this job</h2>
      {#if mayAdd}<button class="btn btn-plain btn-sm min-h-touch" onclick={() => void begin()}
          >Add work on the {free.length === 1 ? `${free[0]} axle` : "other axle"}</button
        >{/if}
    </div>
    {#if works.length > 1}
      <ul class="mt-1 grid gap-x-6 sm:grid-cols-2">
        {#each works as one (one.id)}
          <li class="border-line border-b">
            <a
              class={[
                "min-h-touch grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-2 pl-3",
                one.id === on.workId ? "border-base-content border-l-4" : "border-l-4 border-transparent",
              ]}
              aria-current={one.id === on.workId ? "true" : undefined}
              href={`/jobs/${on.id}/work/${one.id}`}
            >
              <span class="min-w-0">
                <span class="figure block text-lg leading-tight">{one.title}</span>
                <span class="quiet block">{one.next_action}</span>
              </span>
              <StateMark state={one.state} word={one.state_word} />
            </a>
          </li>
        {/each}
      </ul>
    {/if}
  </section>
{/if}
{#if adding}
  <Dialog title="Add work to this job" onclose={() => (adding = false)}>
    <form class="grid gap-4" onsubmit={add}>
      <p>Ring and pinion. It gets its own bench, run sheet and sign-off.</p>
      <Field label="Axle">
        <select class="select w-full" bind:value={axle}>
          {#each free as end (end)}<option value={end}>{end === "front" ? "Front axle" : "Rear axle"}</option
            >{/each}
        </select>
      </Field>
      <Field label="Axle family (from the Stores)">
        <select class="select w-full" required bind:value={family}>
          <option value="" disabled>Choose the axle family</option>
          {#each families as one (one.code)}<option value={one.code}>{one.name}: {one.build}</option>{/each}
        </select>
      </Field>
      <Notice text={wrong} />
      <div class="flex gap-2">
        <button class="btn btn-neutral" disabled={on.busy}>Add</button>
        <button type="button" class="btn btn-plain" onclick={() => (adding = false)}>Cancel</button>
      </div>
    </form>
  </Dialog>
{/if}
