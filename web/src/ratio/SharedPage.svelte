<script lang="ts">
  import { ask, client, type Schemas } from "../api/client";
  import { when } from "../lib/quantity";
  import RatioView from "./RatioView.svelte";

  interface Props {
    token: string;
  }
  let { token }: Props = $props();
  let shown = $state.raw<Schemas["SharedOut"] | null>(null);
  let wrong = $state<string | null>(null);
  let imperial = $state(false);

  $effect(() => {
    void ask(
      client.GET("/api/v1/shared-ratios/{token}", { params: { path: { token }, query: { imperial } } }),
    ).then((answer) => {
      if (answer.kind === "done") shown = answer.value;
      else
        wrong =
          answer.kind === "lost"
            ? "The workshop's server does not answer. Try again later."
            : "This link is wrong or has expired. Ask the workshop for another.";
    });
  });
</script>

<svelte:head
  ><title>{shown ? `${shown.title}, ${shown.shop_name}` : "Shared by the workshop"}</title></svelte:head
>
<main id="main" class="mx-auto w-full max-w-[80rem] px-3 pt-6 pb-10 sm:px-5">
  {#if shown}
    <p class="quiet">{shown.shop_name}</p>
    <h1>{shown.title}</h1>
    <p class="mb-4">
      {shown.vehicle}. Calculated {when(shown.at)}; this link is valid until {when(shown.expires_at)}.
      <label class="min-h-touch ml-4 inline-flex items-center gap-2"
        ><input class="checkbox" type="checkbox" bind:checked={imperial} /> miles and pounds</label
      >
    </p>
    <RatioView inputs={shown.inputs} answer={shown.answer} unit={imperial ? "thou" : "mm"} />
    <p class="quiet mt-6 max-w-prose">
      The figures are calculated from what was entered for the vehicle. The maker's manual and local rules
      come first; ratio and tyre changes can need approval or the insurer's notice.
    </p>
  {:else}
    <h1>Shared by the workshop</h1>
    {#if wrong}<p class="mt-3" role="alert">{wrong}</p>{/if}
  {/if}
</main>
