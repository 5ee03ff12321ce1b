<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import KeepForm from "../lib/KeepForm.svelte";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import type { DrivelineDesk } from "./desk.svelte";
  import Limits from "./Limits.svelte";

  interface Props {
    on: DrivelineDesk;
    desk: Schemas["DrivelineDeskOut"];
    may: boolean;
  }
  let { on, desk, may }: Props = $props();
  let wrong = $state<string | null>(null);
  let opened = $state.raw<Schemas["DrivelineResultWholeOut"] | null>(null);

  async function open(id: string) {
    if (opened?.id === id) {
      opened = null;
      return;
    }
    const answer = await ask(
      client.GET("/api/v1/driveline-results/{result_id}", { params: { path: { result_id: id } } }),
    );
    if (answer.kind === "done") opened = answer.value;
    else wrong = sentence(answer);
  }
</script>

<section aria-labelledby="kept" class="rule-top mt-6 pt-3">
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
            >{one.shaft === "rear" ? "rear driveline" : "front driveline"}; {one.by_name}, {when(one.at)};
            worked out by version {one.engine_version}{one.is_current
              ? ""
              : ", an older one: shown as it was"}</span
          >
        </div>
        <div class="flex flex-wrap gap-2">
          <button
            class="btn btn-plain btn-sm"
            aria-expanded={opened?.id === one.id}
            onclick={() => void open(one.id)}
            >{opened?.id === one.id ? "Close" : "Show"}<span class="sr-only"> {one.title}</span></button
          >
          <a class="btn btn-plain btn-sm" href={`/api/v1/driveline-results/${one.id}/file.csv`} download
            >CSV</a
          >
          <a class="btn btn-plain btn-sm" href={`/api/v1/driveline-results/${one.id}/file.json`} download
            >JSON</a
          >
          {#if one.can_order}<a
              class="btn btn-plain btn-sm"
              href={`/api/v1/driveline-results/${one.id}/order.pdf`}
              download>Order sheet, PDF</a
            >{/if}
        </div>
        {#if opened?.id === one.id}
          <div class="mt-2">
            <Limits
              limits={opened.answer.now.analysed.limits}
              tried={opened.answer.tried?.analysed.limits ?? null}
            />
            <button
              class="btn btn-plain btn-sm mt-2"
              onclick={() => {
                if (opened) on.take(opened.inputs);
              }}>Take it up again at the desk</button
            >
          </div>
        {/if}
      </li>
    {/each}
  </ul>
  {#if may}<KeepForm disabled={on.busy || !on.answer} onkeep={(title) => on.keep(title)} />{/if}
  <div class="mt-2"><Notice text={wrong} /></div>
</section>
