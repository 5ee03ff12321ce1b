<script lang="ts" module>
  /** A result of a desk that is kept on the job. */
  export interface Kept {
    id: string;
    title: string;
    by_name: string;
    at: string;
    engine_version: string;
    is_current: boolean;
  }
</script>

<script lang="ts" generics="Result extends Kept, Whole">
  import FileLink from "./FileLink.svelte";
  import LastFew from "./LastFew.svelte";
  import type { Snippet } from "svelte";

  import { sentence, type Answer } from "../api/client";
  import Notice from "./Notice.svelte";
  import { when } from "./quantity";

  interface Props {
    results: Result[];
    /** where the files of a result lie, without its id */
    address: string;
    /** what kind of result it is, before who and when */
    kind?: (one: Result) => string;
    beside?: Snippet<[Result]>;
    actions?: Snippet<[Result]>;
    below?: Snippet<[Result]>;
    /** all of a result, and how it is shown */
    whole?: (id: string) => Promise<Answer<Whole>>;
    shown?: Snippet<[Whole]>;
    /** what keeps another one */
    children?: Snippet;
  }
  let { results, address, kind, beside, actions, below, whole, shown, children }: Props = $props();
  let opened = $state.raw<{ id: string; whole: Whole } | null>(null);
  let wrong = $state<string | null>(null);

  async function open(id: string) {
    if (opened?.id === id || !whole) {
      opened = null;
      return;
    }
    const answer = await whole(id);
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") opened = { id, whole: answer.value };
  }
</script>

<h2 id="kept">Saved to this job</h2>
{#if results.length === 0}<p class="quiet">
    Nothing saved yet. What you save stays as it was and goes on the build sheet.
  </p>{/if}
<LastFew all={results} few={5} what="saved answers">
  {#snippet children(some)}
    <ul class="grid grid-cols-[minmax(0,1fr)] gap-2">
      {#each some as one (one.id)}
        <li class="border-line border-t pt-2">
          <div class="flex flex-wrap items-baseline gap-x-4">
            <strong>{one.title}</strong>
            {@render beside?.(one)}
            <span class="quiet text-sm"
              >{kind ? `${kind(one)}; ` : ""}{one.by_name}, {when(one.at)}; calculated by version {one.engine_version}{one.is_current
                ? ""
                : ", an earlier version: shown as it was"}</span
            >
          </div>
          <div class="flex flex-wrap gap-2">
            {#if whole}<button
                class="btn btn-plain btn-sm"
                aria-expanded={opened?.id === one.id}
                onclick={() => void open(one.id)}
                >{opened?.id === one.id ? "Close" : "Show"}<span class="sr-only"> {one.title}</span></button
              >{/if}
            <FileLink class="btn btn-plain btn-sm" href={`${address}/${one.id}/file.csv`}>CSV</FileLink>
            <FileLink class="btn btn-plain btn-sm" href={`${address}/${one.id}/file.json`}>JSON</FileLink>
            {@render actions?.(one)}
          </div>
          {@render below?.(one)}
          {#if opened?.id === one.id}<div class="mt-3">{@render shown?.(opened.whole)}</div>{/if}
        </li>
      {/each}
    </ul>
  {/snippet}
</LastFew>
{@render children?.()}
<div class="mt-2"><Notice text={wrong} /></div>
