<script lang="ts">
  import { untrack } from "svelte";

  import type { Station } from "../api/client";
  import Dialog from "../lib/Dialog.svelte";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import { STATION_STATES } from "../lib/words";

  interface Props {
    station: Station;
    wrong: string | null;
    onsave: (state: Station["state"], note: string) => void;
    onclose: () => void;
  }
  let { station, wrong, onsave, onclose }: Props = $props();
  let found = $state(untrack(() => station.state));
  let note = $state(untrack(() => station.note));
</script>

<Dialog title={station.label} {onclose}>
  <form
    class="grid gap-4"
    onsubmit={(event) => {
      event.preventDefault();
      onsave(found, note);
    }}
  >
    <fieldset>
      <legend class="label-text mb-1">Condition</legend>
      {#each STATION_STATES as one (one.value)}
        <label class="min-h-touch flex items-center gap-3">
          <input class="radio radio-neutral" type="radio" name="state" value={one.value} bind:group={found} />
          {one.word}
        </label>
      {/each}
    </fieldset>
    <Field label="Note"><input class="input w-full" maxlength="200" bind:value={note} /></Field>
    <Notice text={wrong} />
    {#if station.history.length > 0}
      <details>
        <summary class="min-h-touch cursor-pointer py-2">Earlier ({station.history.length})</summary>
        <ul class="grid gap-1">
          {#each station.history as one (one.at)}
            <li>
              {one.word}{one.note ? `: ${one.note}` : ""}
              <span class="quiet">{one.by_name}, {when(one.at)}</span>
            </li>
          {/each}
        </ul>
      </details>
    {/if}
    <div class="flex gap-2">
      <button class="btn btn-neutral">Save</button>
      <button type="button" class="btn btn-plain" onclick={onclose}>Cancel</button>
    </div>
  </form>
</Dialog>
