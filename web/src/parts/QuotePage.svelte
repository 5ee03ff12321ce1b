<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { newId } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { money, when } from "../lib/quantity";
  import DrawOn from "./DrawOn.svelte";
  import { titled } from "./wall.svelte";

  interface Props {
    token: string;
  }
  let { token }: Props = $props();
  let shown = $state.raw<Schemas["SharedQuoteOut"] | null>(null);
  let gone = $state<string | null>(null);
  let wrong = $state<string | null>(null);
  let answers = $state<Record<string, boolean>>({});
  let name = $state("");
  let note = $state("");
  let busy = $state(false);
  const client_id = newId();

  $effect(() => {
    void ask(client.GET("/api/v1/shared-quotes/{token}", { params: { path: { token } } })).then((answer) => {
      if (answer.kind === "done") shown = answer.value;
      else
        gone =
          answer.kind === "lost"
            ? "The workshop's server does not answer. Try again later."
            : "This link is wrong, has expired or was withdrawn. Ring the workshop.";
    });
  });
  const total = $derived(
    (shown?.lines ?? []).reduce(
      (sum, line) =>
        answers[line.key]
          ? sum + (line.ways.find((one) => one.chosen)?.total ?? line.ways[0]?.total ?? 0)
          : sum,
      0,
    ),
  );

  async function send(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const answer = await ask(
      client.POST("/api/v1/shared-quotes/{token}/answer", {
        params: { path: { token } },
        body: { client_id, answers: $state.snapshot(answers), name, note },
      }),
    );
    busy = false;
    if (answer.kind === "done") {
      shown = answer.value;
      wrong = null;
    } else wrong = sentence(answer);
  }
</script>

<svelte:head><title>{shown ? `Quote from ${shown.shop_name}` : "Quote"}</title></svelte:head>
<main id="main" class="mx-auto w-full max-w-3xl px-3 pt-6 pb-10 sm:px-5">
  {#if shown}
    {@const quote = shown}
    <p class="quiet">{quote.shop_name}, job {quote.number}</p>
    <h1>{quote.vehicle}: what we found</h1>
    <p class="mb-4">
      {when(quote.at)}. This page is valid until {when(quote.expires_at)}.{quote.intro
        ? ` ${quote.intro}`
        : ""}
    </p>
    <form onsubmit={send}>
      {#each quote.lines as line (line.key)}
        <section class="rule-top py-4" aria-labelledby={`line-${line.key}`}>
          <h2 id={`line-${line.key}`}>{titled(line.part)}{line.found ? `: ${line.found}` : ""}</h2>
          {#if line.photo}
            <div class="my-2 max-w-md">
              <DrawOn
                src={`/api/v1/shared-quotes/${token}/photos/${line.photo}`}
                alt={`Picture of ${line.part}`}
                drawn={line.drawn as unknown as Schemas["DrawnIn"][]}
              />
            </div>
          {/if}
          <p>{line.decision}.{line.note ? ` ${line.note}` : ""}</p>
          {#if line.ways.length > 0}
            <table class="my-2 w-full max-w-md">
              <tbody>
                {#each line.ways as one (one.name)}
                  <tr class="border-line border-t">
                    <th scope="row" class="py-1 text-left font-normal"
                      >{titled(one.name)}{#if one.chosen && line.ways.length > 1}<span
                          class="figure ml-2 border border-current px-1.5 text-sm">Recommended</span
                        >{/if}</th
                    >
                    <td class="quiet text-sm">{one.wait_days > 0 ? `${one.wait_days} days` : ""}</td>
                    <td class="figure text-right text-xl">{money(one.total)}</td>
                  </tr>
                {/each}
              </tbody>
            </table>
          {/if}
          {#if quote.answer}
            <p class="figure text-lg">{quote.answer.answers[line.key] ? "Yes" : "No"}</p>
          {:else}
            <div class="flex gap-2" role="radiogroup" aria-label={`Your answer: ${line.part}`}>
              {#each [[true, "Yes, do it"], [false, "No"]] as const as [yes, word] (word)}
                <label
                  class={["btn grow sm:grow-0", answers[line.key] === yes ? "btn-neutral" : "btn-plain"]}
                >
                  <input
                    class="sr-only"
                    type="radio"
                    name={`answer-${line.key}`}
                    required
                    checked={answers[line.key] === yes}
                    onchange={() => (answers[line.key] = yes)}
                  />
                  {word}
                </label>
              {/each}
            </div>
          {/if}
        </section>
      {/each}
      {#if quote.answer}
        <p class="rule-top pt-3" role="status">
          Answered by {quote.answer.name}, {when(quote.answer.at)}. Thank you. Ring the workshop if anything
          changes.
        </p>
      {:else}
        <div class="rule-top grid gap-3 pt-4">
          <p>
            {quote.tax_pct > 0 ? `Prices include ${quote.tax_pct} % tax.` : "Prices are without tax."}
            {#if total > 0}What you said yes to comes to
              <strong class="figure text-xl">{money(total)}</strong>.{/if}
          </p>
          <Field label="Your name"
            ><input
              class="input w-full"
              minlength="2"
              maxlength="120"
              required
              autocomplete="name"
              bind:value={name}
            /></Field
          >
          <Field label="Anything to add (optional)">
            <textarea class="textarea w-full" maxlength="1000" bind:value={note}></textarea>
          </Field>
          <Notice text={wrong} />
          <button class="btn btn-primary justify-self-start text-xl" disabled={busy}>Send the answer</button>
        </div>
      {/if}
    </form>
  {:else}
    <h1>Quote</h1>
    {#if gone}<p class="mt-3" role="alert">{gone}</p>{/if}
  {/if}
</main>
