<script lang="ts">
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import ReasonDialog from "../lib/ReasonDialog.svelte";
  import PartFacts from "./PartFacts.svelte";
  import { titled, type Part, type WallOnScreen } from "./wall.svelte";

  interface Props {
    on: WallOnScreen;
    picked: string | null;
    onscan: () => void;
  }
  let { on, picked = $bindable(), onscan }: Props = $props();
  const session = getSession();
  const wall = $derived(on.wall);
  const order = $derived(
    (wall?.back ?? []).flatMap((step) => {
      const part = on.part(step.key);
      return part ? [{ ...step, part }] : [];
    }),
  );
  const inHand = $derived(order.find((step) => step.key === picked) ?? order[0] ?? null);
  const done = $derived((wall?.parts ?? []).filter((part) => part.back !== null));
  const unit = $derived(session.me?.length_unit ?? "mm");
  let counted = $state("");
  let leaving = $state<Part | null>(null);
  let sentFor = $state("");

  async function put(part: Part, is_new: boolean, sure = false) {
    sentFor = part.key;
    const count = counted.trim() === "" ? null : Number(counted);
    if (count !== null && !Number.isInteger(count)) {
      on.wrong = "The count must be a whole number.";
      return;
    }
    if (await on.putBack({ key: part.key, is_new, counted: count, sure })) {
      picked = null;
      counted = "";
    }
  }
  const mustBeNew = (part: Part) => part.one_time === "always" || part.seen?.decision === "replace";
</script>

{#if wall}
  <Notice text={wall.hold || null} />
  {#if inHand}
    {@const part = inHand.part}
    <div class="border-base-content my-3 border-2 p-3">
      <p class="quiet">Next on</p>
      <PartFacts {part} {unit} large>
        {#each inHand.why as one (one)}<p class="w-full"><strong>{one}</strong></p>{/each}
        {#if part.one_time === "always"}<p class="w-full"><strong>Used once: fit a new one.</strong></p>
        {:else if part.one_time === "if_disturbed"}<p class="w-full">
            The maker may ask for a new one: check the manual.
          </p>{/if}
        {#if part.trap}<p class="w-full">{part.trap}</p>{/if}
        {#if part.off && part.off.counted !== null}
          <label class="flex w-full items-center gap-3">
            <span class="label-text">Counted again ({part.off.counted} came off)</span>
            <input
              class="input figure w-28 text-xl"
              inputmode="numeric"
              maxlength="5"
              autocomplete="off"
              bind:value={counted}
            />
          </label>
        {/if}
        {#if !mustBeNew(part)}
          <button
            type="button"
            class="btn btn-primary grow text-xl sm:grow-0"
            disabled={on.busy || wall.signed}
            onclick={() => void put(part, false)}>Back on</button
          >
        {/if}
        <button
          type="button"
          class={["btn grow text-xl sm:grow-0", mustBeNew(part) ? "btn-primary" : "btn-plain"]}
          disabled={on.busy || wall.signed}
          onclick={() => void put(part, true)}>New one fitted</button
        >
        <button
          type="button"
          class="btn btn-plain"
          disabled={on.busy || wall.signed}
          onclick={() => (leaving = part)}>Stays out</button
        >
        {#if sentFor === part.key && (on.refused === "out_of_order" || on.refused === "to_replace")}
          <button
            type="button"
            class="btn btn-neutral"
            disabled={on.busy}
            onclick={() => void put(part, false, true)}>Put it on anyway</button
          >
        {/if}
      </PartFacts>
    </div>
    <button type="button" class="btn btn-plain mb-4" onclick={onscan}>Scan a label</button>
  {:else if done.length > 0}
    <p class="figure my-4 text-2xl">Everything that came off is on again, new, or stays out.</p>
  {:else}
    <p class="quiet my-4 max-w-prose">
      Nothing is off yet. The way back is made from what comes off: in reverse, with side, way up and mark
      beside the hand.
    </p>
  {/if}
  <div class="gap-8 lg:grid lg:grid-cols-2">
    {#if order.length > 0}
      <section aria-labelledby="to-go-on">
        <h2 id="to-go-on">Still on the wall: {order.length}</h2>
        <ol>
          {#each order as step, index (step.key)}
            <li class="border-line border-t py-2">
              <PartFacts part={step.part} {unit} number={index + 1}>
                {#if step.closes}<span class="figure border-2 border-current px-1.5">Hold</span>{/if}
                {#if step.key !== inHand?.key}
                  <button
                    type="button"
                    class="btn btn-plain btn-sm"
                    onclick={() => {
                      picked = step.key;
                      on.wrong = null;
                      window.scrollTo({ top: 0 });
                    }}>This one<span class="sr-only">: {step.part.name}</span></button
                  >
                {/if}
              </PartFacts>
            </li>
          {/each}
        </ol>
      </section>
    {/if}
    {#if done.length > 0}
      <section aria-labelledby="gone-on" class="max-lg:mt-6">
        <h2 id="gone-on">On again: {done.length}</h2>
        <ul>
          {#each done as part (part.key)}
            <li class="border-line flex flex-wrap items-center gap-x-3 border-t py-1.5">
              <span class="grow"
                >{titled(part.name)}<span class="quiet">
                  {part.back?.stays_out
                    ? `, stays out: ${part.back.note}`
                    : part.back?.is_new
                      ? ", new"
                      : ""},
                  {part.back?.by_name}</span
                ></span
              >
              {#if !wall.signed}<button
                  type="button"
                  class="btn btn-plain btn-sm"
                  disabled={on.busy}
                  onclick={() => part.back && void on.undo(part.back.id)}
                  >Undo<span class="sr-only">: {part.name}</span></button
                >{/if}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
{/if}
{#if leaving}
  {@const part = leaving}
  <ReasonDialog
    title={`${titled(part.name)} stays out`}
    ask="Why? It stays on the record."
    wrong={on.wrong}
    onclose={() => (leaving = null)}
    onreason={async (note) => {
      if (await on.putBack({ key: part.key, stays_out: true, note })) leaving = null;
    }}
  />
{/if}
