<script lang="ts">
  import type { LengthUnit } from "../lib/quantity";
  import PartFacts from "./PartFacts.svelte";
  import type { Tab } from "./tabs";
  import type { Part, WallOnScreen } from "./wall.svelte";

  interface Props {
    on: WallOnScreen;
    part: Part;
    unit: LengthUnit;
    ongo: (tab: Tab, key: string) => void;
  }
  let { on, part, unit, ongo }: Props = $props();
  const STATES = { on: "On", off: "Off", back: "Back on", stays_out: "Stays out" };
</script>

<section aria-label={`Part in hand: ${part.name}`} class="border-base-content mt-3 border-l-4 pl-3">
  <p class="quiet">
    {STATES[part.state]}{#if part.off}, off by {part.off.by_name}{/if}{#if part.back}, on by {part.back
        .by_name}{/if}
  </p>
  <PartFacts {part} {unit} large>
    {#if part.trap}<p class="w-full"><strong>{part.trap}</strong></p>{/if}
    {#if part.after.length > 0 && part.state === "on"}
      <p class="w-full">
        First off: {part.after.map((key) => on.part(key)?.name ?? key).join(", ")}.
      </p>
    {/if}
    {#if !on.wall?.signed}
      {#if part.state !== "off"}<button
          type="button"
          class="btn btn-plain"
          onclick={() => ongo("off", part.key)}>Take off</button
        >{/if}
      <button type="button" class="btn btn-plain" onclick={() => ongo("decide", part.key)}>Decide</button>
      {#if part.state === "off"}<button
          type="button"
          class="btn btn-plain"
          onclick={() => ongo("back", part.key)}>Put back</button
        >{/if}
    {/if}
  </PartFacts>
</section>
