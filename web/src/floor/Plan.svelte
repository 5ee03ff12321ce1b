<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import Notice from "../lib/Notice.svelte";

  let plan = $state.raw<Schemas["PlanOut"] | null>(null);
  let wrong = $state<string | null>(null);
  const late = $derived(plan ? plan.works.filter((one) => one.late).length : 0);

  async function load() {
    const answer = await ask(client.GET("/api/v1/floor/plan"));
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") plan = answer.value;
  }
  const day = (date: string) =>
    new Date(`${date}T12:00`).toLocaleDateString("en-GB", {
      weekday: "short",
      day: "numeric",
      month: "short",
    });
  const at = (moment: string) =>
    new Date(moment).toLocaleString("en-GB", {
      weekday: "short",
      day: "numeric",
      month: "short",
      hour: "2-digit",
      minute: "2-digit",
    });
</script>

<details class="mb-4" ontoggle={(event) => event.currentTarget.open && void load()}>
  <summary class="min-h-touch cursor-pointer py-2">Plan: when each piece of work is ready</summary>
  <Notice text={wrong} />
  {#if plan}
    {#if plan.works.length === 0}
      <p>Nothing to plan: no open work, or all of it waits.</p>
    {:else}
      <p class="quiet mb-2">
        {plan.hands === 1 ? "One person" : `${plan.hands} people`}, by the opening hours and the minutes left
        on each run sheet, in the order of the Floor. While a clock runs, the next job is begun. A job that
        waits for parts comes after the rest, from the day the last of them is due; other jobs that wait are
        left out.
        {#if late > 0}<strong class="text-base-content"
            >{late === 1 ? "One is" : `${late} are`} ready after the promised day.</strong
          >{/if}
      </p>
      <ul>
        {#each plan.works as one (one.work_id)}
          <li class="border-line border-b">
            <a
              class="min-h-touch grid grid-cols-[3.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-1 sm:grid-cols-[3.5rem_minmax(0,1fr)_11rem_13rem]"
              href={`/jobs/${one.job_id}/work/${one.work_id}`}
            >
              <span class="figure">{one.number}</span>
              <span class="min-w-0"
                >{one.title}<span class="quiet block truncate text-sm">{one.vehicle}</span
                >{#if one.parts_due_on}<span class="block text-sm">parts due {day(one.parts_due_on)}</span
                  >{/if}</span
              >
              <span class="figure hidden sm:block">{one.today ? "today" : at(one.begin)}</span>
              <span class="figure text-right"
                >ready {at(one.ready)}{#if one.late}<strong class="block text-sm"
                    >after the promised day</strong
                  >{/if}</span
              >
            </a>
          </li>
        {/each}
      </ul>
    {/if}
  {/if}
</details>
