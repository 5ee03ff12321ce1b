<script lang="ts">
  import type { Bench, Contact, Schemas } from "../api/client";
  import type { BenchOnScreen } from "./bench.svelte";
  import FlankDrawing from "./pattern/FlankDrawing.svelte";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    place: Schemas["PlaceOut"];
  }
  let { on, bench, place }: Props = $props();
  let now = $state.raw<Contact | null>(null);
  let then = $state.raw<Contact | null>(null);
  const FLANKS = [
    { key: "drive", name: "Drive side" },
    { key: "coast", name: "Coast side" },
  ] as const;

  $effect(() => {
    const { pinion_mm, ring_mm } = place;
    let stale = false;
    void Promise.all([on.contact(null), on.contact({ pinion_mm, ring_mm })]).then(([before, after]) => {
      if (stale) return;
      now = before;
      then = after;
    });
    return () => (stale = true);
  });
</script>

{#if now && then}
  <figure>
    <div class="grid grid-cols-2 gap-2">
      {#each FLANKS as { key, name } (key)}
        <div>
          <p class="label-text">{name}</p>
          <FlankDrawing
            proportions={bench.proportions}
            label={`${name}: the middle of the pattern goes from ${Math.round(100 * now[key].u)} % to ${Math.round(100 * then[key].u)} % toe to heel, and from ${Math.round(100 * now[key].v)} % to ${Math.round(100 * then[key].v)} % root to tip`}
            model={now[key]}
            then={then[key]}
            width={260}
            pad={4}
            words={false}
          />
        </div>
      {/each}
    </div>
    <figcaption class="quiet text-sm">
      Toe on the left, face at the top. Solid line: estimated pattern now. Dashed line: after the move.
    </figcaption>
  </figure>
{/if}
