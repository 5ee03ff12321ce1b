<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import { newId } from "../lib/ids";
  import KeepForm from "../lib/KeepForm.svelte";
  import Notice from "../lib/Notice.svelte";
  import { when, type LengthUnit } from "../lib/quantity";
  import type { RatioDesk } from "./desk.svelte";
  import RatioView from "./RatioView.svelte";

  interface Props {
    on: RatioDesk;
    desk: Schemas["DeskOut"];
    unit: LengthUnit;
    may: boolean;
  }
  let { on, desk, unit, may }: Props = $props();
  let wrong = $state<string | null>(null);
  let opened = $state.raw<Schemas["ResultWholeOut"] | null>(null);
  let link = $state.raw<{ id: string; address: string; until: string } | null>(null);

  async function open(id: string) {
    if (opened?.id === id) {
      opened = null;
      return;
    }
    const answer = await ask(
      client.GET("/api/v1/ratio-results/{result_id}", { params: { path: { result_id: id } } }),
    );
    if (answer.kind === "done") opened = answer.value;
    else wrong = sentence(answer);
  }
  async function lend(id: string) {
    const answer = await ask(
      client.POST("/api/v1/ratio-results/{result_id}/links", {
        params: { path: { result_id: id } },
        body: { client_id: newId(), days: 14 },
      }),
    );
    if (answer.kind === "done") {
      const { token, expires_at } = answer.value;
      link = { id, address: `${location.origin}/shared/${token}`, until: expires_at };
      wrong = null;
    } else wrong = sentence(answer);
  }
</script>

<section aria-labelledby="kept" class="rule-top pt-3">
  <h2 id="kept">Kept on the job</h2>
  {#if desk.results.length === 0}<p class="quiet">
      Nothing yet. What is kept stays as it was, and goes on the build sheet.
    </p>{/if}
  <ul class="grid gap-2">
    {#each desk.results as one (one.id)}
      <li class="border-line border-t pt-2">
        <div class="flex flex-wrap items-baseline gap-x-4">
          <strong>{one.title}</strong>
          <span class="quiet text-sm"
            >{one.by_name}, {when(one.at)}; worked out by version {one.engine_version}{one.is_current
              ? ""
              : ", an older one: shown as it was"}{one.links.length > 0
              ? `; ${one.links.length} lent`
              : ""}</span
          >
        </div>
        <div class="flex flex-wrap gap-2">
          <button
            class="btn btn-plain btn-sm"
            aria-expanded={opened?.id === one.id}
            onclick={() => void open(one.id)}
            >{opened?.id === one.id ? "Close" : "Show"}<span class="sr-only"> {one.title}</span></button
          >
          <a class="btn btn-plain btn-sm" href={`/api/v1/ratio-results/${one.id}/file.csv`} download>CSV</a>
          <a class="btn btn-plain btn-sm" href={`/api/v1/ratio-results/${one.id}/file.json`} download>JSON</a>
          {#if may}<button class="btn btn-plain btn-sm" onclick={() => void lend(one.id)}
              >Link for the customer</button
            >{/if}
        </div>
        {#if link?.id === one.id}
          <p class="mt-2" role="status">
            Whoever has this link sees this page alone, until {when(link.until)}. It is told only now:
            <output class="bg-base-200 mt-1 block px-2 py-1 break-all select-all">{link.address}</output>
          </p>
        {/if}
        {#if opened?.id === one.id}
          <div class="mt-3"><RatioView inputs={opened.inputs} answer={opened.answer} {unit} /></div>
        {/if}
      </li>
    {/each}
  </ul>
  {#if may}<KeepForm disabled={on.busy || !on.answer?.compared} onkeep={(title) => on.keep(title)} />{/if}
  <div class="mt-2"><Notice text={wrong} /></div>
</section>
