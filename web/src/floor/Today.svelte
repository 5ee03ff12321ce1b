<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { day, when } from "../lib/quantity";
  import { writeOnce } from "../lib/writes";

  const session = getSession();
  const TICK_MS = 15_000;
  let today = $state.raw<Schemas["TodayOut"] | null>(null);
  let wrong = $state<string | null>(null);
  let now = $state(Date.now());
  const unanswered = new UnansweredIds();

  async function load() {
    const answer = await ask(client.GET("/api/v1/floor/today"));
    if (answer.kind === "done") today = answer.value;
  }
  void load();
  $effect(() => {
    const every = setInterval(() => (now = Date.now()), TICK_MS);
    return () => clearInterval(every);
  });

  function toGo(until: string): string {
    const left = Math.ceil((new Date(until).getTime() - now) / 60_000);
    if (left <= 0) return "over";
    return left < 60 ? `${left} min` : `${Math.floor(left / 60)} h ${left % 60} min`;
  }
  /** When a follow-up is due, by its day or by the odometer. */
  function due(one: Schemas["FollowUpOut"]): string {
    if (one.on_date !== null) return day(one.on_date);
    const km = (value: number) => `${Math.round(value).toLocaleString("en-GB").replaceAll(",", "\u2009")} km`;
    if (one.at_km !== null) return `at ${km(one.at_km)}`;
    return one.from_km !== null && one.until_km !== null ? `${km(one.from_km)} to ${km(one.until_km)}` : "";
  }
  async function end(one: Schemas["FollowUpOut"], missed: boolean) {
    const answer = await writeOnce(unanswered, `follow-up ${one.id}`, { missed, note: "" }, (body) =>
      client.POST("/api/v1/follow-ups/{follow_up_id}/end", {
        params: { path: { follow_up_id: one.id } },
        body,
      }),
    );
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done" && today) today = { ...today, due: answer.value.due };
    else void load();
  }
</script>

{#if today && today.clocks.length + today.due.length + today.promised.length > 0}
  <Notice text={wrong} />
  <section class="mb-4 grid gap-x-10 gap-y-3 md:grid-cols-2" aria-label="Today">
    {#if today.clocks.length > 0}
      <div>
        <h2>Running</h2>
        <ul>
          {#each today.clocks as one (one.work_id + one.title)}
            <li class="border-line border-b">
              <a
                class="min-h-touch grid grid-cols-[3.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-1"
                href={`/jobs/${one.job_id}/work/${one.work_id}`}
              >
                <span class="figure">{one.number}</span>
                <span class="min-w-0"
                  >{one.title}<span class="quiet block truncate text-sm">{one.vehicle}</span></span
                >
                <span class="figure text-right text-lg"
                  >{toGo(one.until)}<span class="quiet block text-sm">ready {when(one.until)}</span></span
                >
              </a>
            </li>
          {/each}
        </ul>
      </div>
    {/if}
    {#if today.due.length + today.promised.length > 0}
      <div>
        <h2>Due today</h2>
        <ul>
          {#each today.promised as one (one.job_id)}
            <li class="border-line border-b">
              <a
                class="min-h-touch grid grid-cols-[3.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-1"
                href={`/jobs/${one.job_id}`}
              >
                <span class="figure">{one.number}</span>
                <span class="min-w-0"
                  >Promised<span class="quiet block truncate text-sm">{one.vehicle}</span></span
                >
                <span class="figure">{day(one.promised_on)}</span>
              </a>
            </li>
          {/each}
          {#each today.due as one (one.id)}
            <li
              class="border-line grid grid-cols-[3.5rem_minmax(0,1fr)] items-baseline gap-x-3 border-b py-1"
            >
              <span class="figure">{one.number}</span>
              <span class="min-w-0">
                <a href={`/jobs/${one.job_id}/hand-over`}>{one.text}</a>
                <span class="quiet block text-sm">{one.vehicle}; {due(one)}</span>
                {#if session.me?.may.record}
                  <span class="flex gap-2 py-1">
                    <button class="btn btn-plain btn-sm min-h-touch" onclick={() => void end(one, false)}
                      >Done<span class="sr-only">: {one.text}</span></button
                    >
                    <button class="btn btn-plain btn-sm min-h-touch" onclick={() => void end(one, true)}
                      >Did not come<span class="sr-only">: {one.text}</span></button
                    >
                  </span>
                {/if}
              </span>
            </li>
          {/each}
        </ul>
      </div>
    {/if}
  </section>
{/if}
