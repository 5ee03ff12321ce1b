<script lang="ts">
  import { ask, client, sentence } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { money, when } from "../lib/quantity";
  import { titled, type WallOnScreen } from "./wall.svelte";

  interface Props {
    on: WallOnScreen;
    may: boolean;
  }
  let { on, may }: Props = $props();
  const wall = $derived(on.wall);
  const decided = $derived(
    (wall?.parts ?? []).filter(
      (part) => part.seen?.decision === "repair" || part.seen?.decision === "replace",
    ),
  );
  let left = $state<string[]>([]);
  let hourly = $state("");
  let tax = $state("");
  let intro = $state("");
  let days = $state(14);
  let wrong = $state<string | null>(null);
  let made = $state<{ address: string; until: string } | null>(null);
  const ids = new UnansweredIds();
  const STATES = {
    open: "open",
    expired: "expired",
    called_back: "withdrawn",
    answered: "answered",
    by_file: "from another workshop, not answered there",
  };
  const keys = $derived(decided.filter((part) => !left.includes(part.key)).map((part) => part.key));

  // an hour costs here what it cost where the ways were priced
  $effect(() => {
    const known = decided.map((part) => part.seen?.ways?.["hourly"]).find((one) => typeof one === "number");
    if (hourly === "" && typeof known === "number") hourly = money(known);
  });

  async function make(event: SubmitEvent) {
    event.preventDefault();
    if (!wall) return;
    const share = Number(tax.replace(",", ".") || "0");
    if (!Number.isFinite(share)) {
      wrong = "Tax must be a number, such as 20.";
      return;
    }
    const given = { hourly, tax_pct: share, intro, keys, days };
    const key = JSON.stringify(given);
    const answer = await ask(
      client.POST("/api/v1/work/{work_id}/parts/quotes", {
        params: { path: { work_id: wall.work_id } },
        body: { ...given, ...ids.envelope(key) },
      }),
    );
    ids.answered(key, answer);
    if (answer.kind === "done") {
      made = { address: `${location.origin}/quote/${answer.value.token}`, until: answer.value.expires_at };
      wrong = null;
      await on.load();
    } else wrong = sentence(answer);
  }
</script>

{#if wall}
  {#if may && decided.length > 0}
    <form class="mb-6 grid max-w-2xl gap-3" onsubmit={make}>
      <fieldset>
        <legend class="label-text">What the customer decides on</legend>
        {#each decided as part (part.key)}
          <label
            class="border-line min-h-touch flex cursor-pointer flex-wrap items-center gap-x-3 border-t py-1"
          >
            <input
              class="checkbox"
              type="checkbox"
              checked={!left.includes(part.key)}
              onchange={(event) =>
                (left = event.currentTarget.checked
                  ? left.filter((key) => key !== part.key)
                  : [...left, part.key])}
            />
            <span class="grow"
              >{titled(part.name)}: {part.seen?.findings_word || part.seen?.decision_word}</span
            >
            <span class="figure">{part.seen?.total ? money(part.seen.total) : "no price yet"}</span>
          </label>
        {/each}
      </fieldset>
      <Field label="A few words to the customer (optional)">
        <textarea class="textarea w-full" maxlength="1000" bind:value={intro}></textarea>
      </Field>
      <div class="grid grid-cols-3 gap-3">
        <Field label="Price of an hour"
          ><input
            class="input figure w-full"
            inputmode="decimal"
            maxlength="20"
            required
            bind:value={hourly}
          /></Field
        >
        <Field label="Tax, %"
          ><input class="input figure w-full" inputmode="decimal" maxlength="6" bind:value={tax} /></Field
        >
        <Field label="Link lasts, days"
          ><input
            class="input figure w-full"
            type="number"
            min="1"
            max="90"
            required
            bind:value={days}
          /></Field
        >
      </div>
      <Notice text={wrong} />
      <button class="btn btn-primary justify-self-start" disabled={keys.length === 0}
        >Link for the customer</button
      >
      {#if made}
        <p role="status">
          Anybody with this link can see this one quote until {when(made.until)}. It is shown only once:
          <output class="bg-base-200 mt-1 block px-2 py-1 break-all select-all">{made.address}</output>
        </p>
      {/if}
    </form>
  {:else if decided.length === 0}
    <p class="quiet mb-6 max-w-prose">
      Nothing is to be repaired or replaced yet. Decide on the parts first; their ways and prices make the
      quote.
    </p>
  {/if}
  {#if wall.links.length > 0}
    <h2>Quotes sent</h2>
    <ul>
      {#each wall.links as link (link.id)}
        <li class="border-line border-t py-2">
          <p class="flex flex-wrap items-center gap-x-3">
            <span class="figure text-lg">{titled(STATES[link.state])}</span>
            <span class="grow"
              >{when(link.at)}, {link.by_name}, {link.lines}
              {link.lines === 1 ? "line" : "lines"}{link.state === "open"
                ? `, until ${when(link.expires_at)}`
                : ""}</span
            >
            {#if may && (link.state === "open" || link.state === "answered")}<button
                type="button"
                class="btn btn-plain btn-sm"
                disabled={on.busy}
                onclick={() => void on.endLink(link.id)}>Withdraw</button
              >{/if}
          </p>
          {#if link.answer}
            <p>
              <strong>{link.answer.name}, {when(link.answer.at)}:</strong>
              {Object.entries(link.answer.answers)
                .map(([key, yes]) => `${on.part(key)?.name ?? key} ${yes ? "yes" : "no"}`)
                .join(", ")}.{link.answer.note ? ` “${link.answer.note}”` : ""}
            </p>
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
{/if}
