<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { writeOnce } from "../lib/writes";

  const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
  const USUAL = { from: "08:00", to: "16:30" };
  type Opening = Schemas["OpeningPart"];
  let hours = $state.raw<Opening[]>([]);
  let hands = $state(1);
  let closed = $state.raw<string[]>([]);
  let fresh = $state("");
  let known = $state(false);
  let told = $state<string | null>(null);
  let wrong = $state<string | null>(null);
  const unanswered = new UnansweredIds();

  function take(now: Schemas["ShopHoursOut"]) {
    ({ hours, hands, closed } = now);
    known = true;
  }
  async function load() {
    const answer = await ask(client.GET("/api/v1/shop/hours"));
    if (answer.kind === "done") take(answer.value);
    else wrong = sentence(answer);
  }
  void load();

  function open(weekday: number, on: boolean) {
    const others = hours.filter((one) => one.weekday !== weekday);
    hours = (on ? [...others, { weekday, ...USUAL }] : others).sort((a, b) => a.weekday - b.weekday);
  }
  function change(which: Opening, part: Partial<Opening>) {
    hours = hours.map((one) => (one === which ? { ...one, ...part } : one));
  }
  function close() {
    if (fresh) closed = [...new Set([...closed, fresh])].sort();
    fresh = "";
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    close();
    const answer = await writeOnce(unanswered, "hours", { hours, hands, closed }, (body) =>
      client.PUT("/api/v1/shop/hours", { body }),
    );
    wrong = answer.kind === "done" ? null : sentence(answer);
    told = answer.kind === "done" ? "Saved. The plan on the Floor goes by these hours." : null;
    if (answer.kind === "done") take(answer.value);
  }
</script>

<section class="rule-top pt-3">
  <h2 class="mb-2">Opening hours</h2>
  {#if known}
    <form class="grid gap-3" onsubmit={save}>
      <ul>
        {#each WEEKDAYS as name, weekday (name)}
          {@const parts = hours.filter((one) => one.weekday === weekday)}
          <li class="min-h-touch flex flex-wrap items-center gap-x-3">
            <label class="flex w-36 items-center gap-3">
              <input
                type="checkbox"
                class="checkbox checkbox-neutral"
                checked={parts.length > 0}
                onchange={(event) => open(weekday, event.currentTarget.checked)}
              />
              {name}
            </label>
            {#each parts as one, index (index)}
              <span class="flex items-center gap-2">
                <input
                  type="time"
                  class="input w-36"
                  aria-label={`${name} from`}
                  required
                  value={one.from}
                  onchange={(event) => change(one, { from: event.currentTarget.value })}
                />
                to
                <input
                  type="time"
                  class="input w-36"
                  aria-label={`${name} to`}
                  required
                  value={one.to}
                  onchange={(event) => change(one, { to: event.currentTarget.value })}
                />
              </span>
            {:else}
              <span class="quiet">closed</span>
            {/each}
          </li>
        {/each}
      </ul>
      <Field label="People at work">
        <input class="input w-28" type="number" min="1" max="8" required bind:value={hands} />
      </Field>
      <div class="flex items-end gap-2">
        <Field label="Closing day"><input class="input" type="date" bind:value={fresh} /></Field>
        <button type="button" class="btn btn-plain" onclick={close} disabled={!fresh}>Add</button>
      </div>
      {#if closed.length > 0}
        <ul class="flex flex-wrap gap-2" aria-label="Closing days">
          {#each closed as one (one)}
            <li>
              <button
                type="button"
                class="btn btn-plain btn-sm min-h-touch"
                onclick={() => (closed = closed.filter((other) => other !== one))}
                ><span class="figure">{one}</span><span class="quiet">Remove</span></button
              >
            </li>
          {/each}
        </ul>
      {/if}
      <Notice text={wrong} />
      {#if told}<Notice kind="told" text={told} />{/if}
      <button class="btn btn-neutral justify-self-start">Save hours</button>
    </form>
  {:else}
    <Notice text={wrong} />
  {/if}
</section>
