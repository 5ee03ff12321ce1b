<script lang="ts">
  import { client } from "../../api/client";
  import Notice from "../../lib/Notice.svelte";
  import NumberField from "../../lib/NumberField.svelte";
  import VerdictMark from "../../lib/VerdictMark.svelte";
  import { WorkedOut } from "../../lib/worked-out.svelte";

  interface Props {
    onsaid: (text: string) => void;
  }
  let { onsaid }: Props = $props();
  const PLACES = [
    { place: "pinion", label: "Pinion, °C" },
    { place: "left", label: "Left wheel end, °C" },
    { place: "right", label: "Right wheel end, °C" },
  ] as const;
  let air = $state<number | null>(null);
  let read = $state<Record<string, number | null>>({});
  const given = $derived(
    PLACES.flatMap(({ place }) => {
      const celsius = read[place];
      return celsius == null ? [] : [{ place, celsius }];
    }),
  );

  const judged = new WorkedOut(
    () => (air === null || given.length === 0 ? null : { ambient_c: air, readings: given }),
    (body) => client.POST("/api/v1/compute/heat.judge", { body }),
  );
  const answer = $derived(judged.value);
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
    <Notice text={judged.wrong} />
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
