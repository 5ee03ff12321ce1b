<script lang="ts">
  import { EVERYWHERE, PLACES, SCREENS, type Key, type Screen } from "./keys";

  interface Props {
    /** one screen's keys, or all */
    screen?: Screen | null;
    all?: boolean;
    path: string;
  }
  let { screen = null, all = false, path }: Props = $props();
  const groups = $derived<{ name: string; keys: Key[] }[]>([
    ...(all ? SCREENS : screen ? [screen] : []),
    { name: "Everywhere", keys: EVERYWHERE },
    {
      name: "Go to a place: g, then",
      keys: PLACES.filter((one) => all || one.to(path) !== null).map((one) => ({
        keys: one.letter,
        does: one.name,
      })),
    },
  ]);
</script>

<div class="grid gap-x-10 gap-y-5 sm:grid-cols-2">
  {#each groups as group (group.name)}
    <section>
      <h2 class="mb-1">{group.name}</h2>
      <dl>
        {#each group.keys as key (key.keys + key.does)}
          <div class="border-line grid grid-cols-[7.5rem_minmax(0,1fr)] gap-x-3 border-t py-1">
            <dt><kbd>{key.keys}</kbd></dt>
            <dd>{key.does}</dd>
          </div>
        {/each}
      </dl>
    </section>
  {/each}
</div>
