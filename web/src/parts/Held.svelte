<script lang="ts">
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import type { Queued } from "./queue";
  import type { WallOnScreen } from "./wall.svelte";

  interface Props {
    on: WallOnScreen;
    /** put a record that was refused into the form again */
    onagain: (one: Queued) => void;
  }
  let { on, onagain }: Props = $props();
  const open = $derived(on.waiting.filter((one) => one.wrong === null));
  const refused = $derived(on.waiting.filter((one) => one.wrong !== null));
  const others = $derived(on.wall?.phones.filter((one) => one.device !== on.device) ?? []);
  const named = (one: Queued) => {
    const said = one.what === "photo" ? "Picture of " : "";
    const typed = typeof one.body["name"] === "string" ? one.body["name"] : "";
    return said + (typed || on.part(one.key)?.name || "part in the picture");
  };
</script>

{#if open.length > 0}
  <div class="border-secondary bg-base-200 mb-3 border-l-4 px-3 py-2" role="status">
    <strong>{open.length} kept on this device, not sent yet.</strong>
    {on.lost
      ? "The connection is lost; they are sent when it is back."
      : on.others
        ? `Recorded by ${[...new Set(open.map((one) => one.body.person))].join(", ")}; they wait until that person signs in here.`
        : "Sending."}
    <ul class="text-sm">
      {#each open.slice(-6) as one (one.seq)}<li>{named(one)}</li>{/each}
    </ul>
  </div>
{/if}
{#each refused as one (one.seq)}
  <div class="mb-3">
    <Notice text={`${named(one)}: ${one.wrong}`} />
    {#if one.what === "off"}<button
        type="button"
        class="btn btn-plain btn-sm mt-1"
        onclick={() => onagain(one)}>Correct it</button
      >{/if}
    <button type="button" class="btn btn-plain btn-sm mt-1" onclick={() => void on.drop(one.seq)}
      >Remove it from this device</button
    >
  </div>
{/each}
{#each others as one (one.device)}
  <p class="border-secondary bg-base-200 mb-3 border-l-4 px-3 py-2">
    {one.person_name}’s device {one.device} said at {when(one.at)} that it still holds {one.waiting}
    {one.waiting === 1 ? "record" : "records"} of this wall. They are missing here until it is back on the network.
  </p>
{/each}
