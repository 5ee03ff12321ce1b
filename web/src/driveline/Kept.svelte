<script lang="ts">
  import { ask, client, type Schemas } from "../api/client";
  import KeepForm from "../lib/KeepForm.svelte";
  import KeptList from "../lib/KeptList.svelte";
  import type { DrivelineDesk } from "./desk.svelte";
  import Limits from "./Limits.svelte";

  interface Props {
    on: DrivelineDesk;
    desk: Schemas["DrivelineDeskOut"];
    may: boolean;
  }
  let { on, desk, may }: Props = $props();
  const ADDRESS = "/api/v1/driveline-results";

  const whole = (result_id: string) =>
    ask(client.GET(`${ADDRESS}/{result_id}`, { params: { path: { result_id } } }));
</script>

<section aria-labelledby="kept" class="rule-top mt-6 pt-3">
  <KeptList
    results={desk.results}
    address={ADDRESS}
    kind={(one) => (one.shaft === "rear" ? "rear driveline" : "front driveline")}
    {whole}
  >
    {#snippet actions(one)}
      {#if one.can_order}<a class="btn btn-plain btn-sm" href={`${ADDRESS}/${one.id}/order.pdf`} download
          >Order sheet (PDF)</a
        >{/if}
    {/snippet}
    {#snippet shown(one)}
      <Limits limits={one.answer.now.analysed.limits} tried={one.answer.tried?.analysed.limits ?? null} />
      <button class="btn btn-plain btn-sm mt-2" onclick={() => on.take(one.inputs)}>Open at the desk</button>
    {/snippet}
    {#if may}<KeepForm disabled={on.busy || !on.answer} onkeep={(title) => on.keep(title)} />{/if}
  </KeptList>
</section>
