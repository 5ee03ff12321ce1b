<script lang="ts">
  import { ask, client, sentence } from "../../api/client";
  import type { paths } from "../../api/schema";
  import Notice from "../../lib/Notice.svelte";
  import NumberField from "../../lib/NumberField.svelte";
  import VerdictMark from "../../lib/VerdictMark.svelte";

  interface Props {
    onsaid: (text: string) => void;
  }
  let { onsaid }: Props = $props();
  type Answer =
    paths["/api/v1/compute/heat.judge"]["post"]["responses"]["200"]["content"]["application/json"];
  const PLACES = [
    { place: "pinion", label: "Pinion, °C" },
    { place: "left", label: "Left wheel end, °C" },
    { place: "right", label: "Right wheel end, °C" },
  ] as const;
  let air = $state<number | null>(null);
  let read = $state<Record<string, number | null>>({});
  let answer = $state.raw<Answer | null>(null);
  let wrong = $state<string | null>(null);
  const given = $derived(
    PLACES.flatMap(({ place }) => {
      const celsius = read[place];
      return celsius == null ? [] : [{ place, celsius }];
    }),
  );

  $effect(() => {
    const readings = given;
    answer = null;
    wrong = null;
    if (air === null || readings.length === 0) return;
    let gone = false;
    void ask(client.POST("/api/v1/compute/heat.judge", { body: { ambient_c: air, readings } })).then(
      (found) => {
        if (gone) return;
        if (found.kind === "done") answer = found.value;
        else wrong = sentence(found);
      },
    );
    return () => (gone = true);
  });
  const said = $derived(
    `${given.map((one) => `${one.place} ${one.celsius} °C`).join(", ")}, air ${air} °C: ${answer?.verdict ?? ""}.`,
  );
</script>

<details>
  <summary class="min-h-touch flex cursor-pointer items-center underline underline-offset-3"
    >Temperatures after the drive</summary
  >
  <p class="quiet mb-2 text-sm">
    Coast to a stop and read at once: braking heats the hubs. Bare metal misleads an infrared thermometer.
  </p>
  <div class="grid max-w-2xl grid-cols-2 gap-3 sm:grid-cols-4">
    <NumberField label="Air, °C" value={air} optional ontyped={(celsius) => (air = celsius)} />
    {#each PLACES as { place, label } (place)}
      <NumberField {label} value={read[place]} optional ontyped={(celsius) => (read[place] = celsius)} />
    {/each}
  </div>
  <div class="mt-2 grid gap-2" aria-live="polite">
    <Notice text={wrong} />
    {#if answer}
      <ul class="grid gap-1">
        {#each answer.rises as one (one.place)}
          <li class="flex items-center gap-2">
            <VerdictMark verdict={one.verdict} size={22} />
            {one.place}: {one.rise_k.toFixed(0)} °C over the air, up to {one.max_rise_k.toFixed(0)} is usual
          </li>
        {/each}
      </ul>
      {#each answer.reasons as one (one.code + one.field)}<p>{one.text}</p>{/each}
      <button type="button" class="btn btn-plain justify-self-start" onclick={() => onsaid(said)}
        >Put it into the note</button
      >
    {/if}
  </div>
</details>
