<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import { written } from "../lib/envelope";
  import KeepForm from "../lib/KeepForm.svelte";
  import KeptList from "../lib/KeptList.svelte";
  import Notice from "../lib/Notice.svelte";
  import { when, type LengthUnit } from "../lib/quantity";
  import type { RatioDesk } from "./desk.svelte";
  import Fitted from "./Fitted.svelte";
  import RatioView from "./RatioView.svelte";

  interface Props {
    on: RatioDesk;
    desk: Schemas["DeskOut"];
    unit: LengthUnit;
    may: boolean;
  }
  let { on, desk, unit, may }: Props = $props();
  let wrong = $state<string | null>(null);
  let link = $state.raw<{ id: string; address: string; until: string } | null>(null);

  const whole = (result_id: string) =>
    ask(client.GET("/api/v1/ratio-results/{result_id}", { params: { path: { result_id } } }));
  async function lend(id: string) {
    const answer = await ask(
      client.POST("/api/v1/ratio-results/{result_id}/links", {
        params: { path: { result_id: id } },
        body: { ...written(), days: 14 },
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
  <KeptList results={desk.results} address="/api/v1/ratio-results" {whole}>
    {#snippet actions(one)}
      {#if may}<button class="btn btn-plain btn-sm" onclick={() => void lend(one.id)}
          >Link for the customer</button
        >{/if}
      {#if one.links.length > 0}<span class="quiet self-center text-sm">{one.links.length} open</span>{/if}
    {/snippet}
    {#snippet below(one)}
      {#if link?.id === one.id}
        <p class="mt-2" role="status">
          Anybody with this link can see this one page until {when(link.until)}. It is shown only once:
          <output class="bg-base-200 mt-1 block px-2 py-1 break-all select-all">{link.address}</output>
        </p>
      {/if}
    {/snippet}
    {#snippet shown(one)}
      <RatioView inputs={one.inputs} answer={one.answer} {unit} />
      {#if may}<Fitted {on} result={one} />{/if}
    {/snippet}
    {#if may}<KeepForm disabled={on.busy || !on.answer?.compared} onkeep={(title) => on.keep(title)} />{/if}
    <Notice text={wrong} />
  </KeptList>
</section>
