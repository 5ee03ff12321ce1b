<script lang="ts">
  import { client } from "../../api/client";
  import Field from "../../lib/Field.svelte";
  import Notice from "../../lib/Notice.svelte";
  import { money } from "../../lib/quantity";
  import NumberField from "../../lib/NumberField.svelte";
  import { WorkedOut } from "../../lib/worked-out.svelte";

  interface Props {
    onsaid: (text: string) => void;
  }
  let { onsaid }: Props = $props();
  interface Way {
    name: string;
    hours: number | null;
    parts: number | null;
    credit: number | null;
    days: number | null;
  }
  const blank = (name: string): Way => ({ name, hours: null, parts: null, credit: null, days: null });
  let hourly = $state<number | null>(null);
  let tax = $state<number | null>(null);
  let ways = $state<Way[]>([blank("Repair"), blank("Exchange unit")]);
  const cents = (sum: number | null) => Math.round((sum ?? 0) * 100);

  const quoted = new WorkedOut(
    () => {
      const given = ways.filter((one) => one.hours !== null || one.parts !== null);
      if (hourly === null || given.length === 0) return null;
      return {
        hourly: cents(hourly),
        tax_pct: tax ?? 0,
        ways: given.map((one) => ({
          name: one.name,
          minutes: (one.hours ?? 0) * 60,
          parts: one.parts === null ? [] : [{ name: "Parts", price: cents(one.parts), count: 1 }],
          credit: cents(one.credit),
          wait_days: one.days ?? 0,
        })),
      };
    },
    (body) => client.POST("/api/v1/compute/quote.compare", { body }),
  );
  const answer = $derived(quoted.value);
  const said = $derived(
    (answer?.ways ?? []).map((one) => `${one.name} ${money(one.total)}, ${one.wait_days} days`).join("; ") +
      ".",
  );
</script>

<details>
  <summary class="min-h-touch flex cursor-pointer items-center underline underline-offset-3"
    >Prices side by side</summary
  >
  <div class="mb-3 grid max-w-md grid-cols-2 gap-3">
    <NumberField label="An hour" value={hourly} digits={2} optional ontyped={(sum) => (hourly = sum)} />
    <NumberField label="Tax, %" value={tax} digits={2} optional ontyped={(share) => (tax = share)} />
  </div>
  {#each ways as way, index (index)}
    <fieldset class="border-line mb-3 border-t pt-2">
      <legend class="sr-only">Way {index + 1}</legend>
      <div class="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-5">
        <Field label="Way"><input class="input w-full" maxlength="60" bind:value={way.name} /></Field>
        <NumberField
          label="Hours"
          value={way.hours}
          digits={2}
          optional
          ontyped={(one) => (way.hours = one)}
        />
        <NumberField
          label="Parts"
          value={way.parts}
          digits={2}
          optional
          ontyped={(one) => (way.parts = one)}
        />
        <NumberField
          label="Credit for the old part"
          value={way.credit}
          digits={2}
          optional
          ontyped={(one) => (way.credit = one)}
        />
        <NumberField
          label="Days to wait"
          value={way.days}
          digits={1}
          optional
          ontyped={(one) => (way.days = one)}
        />
      </div>
    </fieldset>
  {/each}
  <button
    type="button"
    class="btn btn-plain"
    disabled={ways.length >= 10}
    onclick={() => (ways = [...ways, blank(`Way ${ways.length + 1}`)])}>Add a way</button
  >
  <div class="mt-3 grid gap-2" aria-live="polite">
    <Notice text={quoted.wrong} />
    {#if answer}
      <div class="relative overflow-x-auto">
        <table class="w-full max-w-2xl">
          <thead
            ><tr class="quiet text-left text-sm"
              ><th scope="col" class="font-normal">Way</th><th scope="col" class="font-normal">Parts</th><th
                scope="col"
                class="font-normal">Work</th
              ><th scope="col" class="font-normal">Total</th><th scope="col" class="font-normal">Days</th></tr
            ></thead
          >
          <tbody>
            {#each answer.ways as one (one.name)}
              <tr class="border-line figure border-t text-lg"
                ><th scope="row" class="py-1 pr-3 text-left font-normal"
                  >{one.name}{#if one.name === answer.cheapest && answer.ways.length > 1}<span
                      class="quiet ml-2 text-sm">cheapest</span
                    >{/if}{#if one.name === answer.soonest && answer.ways.length > 1}<span
                      class="quiet ml-2 text-sm">soonest</span
                    >{/if}</th
                ><td>{money(one.parts - one.credit)}</td><td>{money(one.labour)}</td><td
                  ><strong>{money(one.total)}</strong></td
                ><td>{one.wait_days}</td></tr
              >
            {/each}
          </tbody>
        </table>
      </div>
      <button type="button" class="btn btn-plain justify-self-start" onclick={() => onsaid(said)}
        >Put it into the note</button
      >
    {/if}
  </div>
</details>
