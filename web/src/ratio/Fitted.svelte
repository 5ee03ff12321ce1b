<script lang="ts">
  import type { Schemas } from "../api/client";
  import Notice from "../lib/Notice.svelte";
  import type { RatioDesk } from "./desk.svelte";

  interface Props {
    on: RatioDesk;
    result: Schemas["ResultWholeOut"];
  }
  let { on, result }: Props = $props();
  const gearings = $derived(result.answer.compared?.gearings ?? []);
  let gearing = $state<number | null>(null);
  let wrong = $state<string | null>(null);
  let told = $state("");
  const id = $props.id();

  async function put() {
    told = "";
    const index = gearing ?? gearings.length - 1;
    wrong = await on.fitted(result.id, index);
    if (wrong === null) told = `${gearings[index]?.name}: tyres and teeth are on the vehicle.`;
  }
</script>

{#if gearings.length > 0}
  <div class="mt-3 flex flex-wrap items-end gap-2">
    <div class="grid gap-1">
      <label class="label-text" for={id}>Fitted to the vehicle</label>
      <select
        {id}
        class="select"
        value={gearing ?? gearings.length - 1}
        onchange={(event) => (gearing = Number(event.currentTarget.value))}
      >
        {#each gearings as one, index (index)}<option value={index}>{one.name}</option>{/each}
      </select>
    </div>
    <button class="btn btn-plain" disabled={on.busy} onclick={() => void put()}>Put it on the vehicle</button>
  </div>
  <Notice text={wrong} />
  {#if told}<Notice kind="told" text={told} />{/if}
{/if}
