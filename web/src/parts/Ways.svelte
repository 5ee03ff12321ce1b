<script lang="ts">
  import { money } from "../lib/quantity";
  import { client } from "../api/client";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import NumberField from "../lib/NumberField.svelte";
  import { WorkedOut } from "../lib/worked-out.svelte";
  import { questionOf, type Priced } from "./ways";

  interface Props {
    priced: Priced;
    way: string;
    onway: (way: string) => void;
    /** names to begin a way with */
    offered: string[];
  }
  let { priced = $bindable(), way, onway, offered }: Props = $props();
  const quoted = new WorkedOut(
    () => questionOf(priced),
    (body) => client.POST("/api/v1/compute/quote.compare", { body }),
  );
  const cents = (sum: number | null) => (sum === null ? null : Math.round(sum * 100));
  const whole = (minor: number | null) => (minor === null ? null : minor / 100);
</script>

<fieldset class="grid gap-3">
  <legend class="label-text">Ways and their prices</legend>
  <div class="grid max-w-xs">
    <NumberField
      label="Price of an hour"
      value={whole(priced.hourly)}
      digits={2}
      optional
      ontyped={(sum) => (priced.hourly = cents(sum))}
    />
  </div>
  {#each priced.ways as one, index (index)}
    <div class="border-line grid grid-cols-2 gap-3 border-t pt-2 sm:grid-cols-[minmax(0,2fr)_1fr_1fr_1fr]">
      <Field label="Way"><input class="input w-full" maxlength="80" bind:value={one.name} /></Field>
      <NumberField label="Minutes" value={one.minutes} optional ontyped={(min) => (one.minutes = min)} />
      <NumberField
        label="Parts"
        value={whole(one.parts)}
        digits={2}
        optional
        ontyped={(sum) => (one.parts = cents(sum))}
      />
      <NumberField label="Days to wait" value={one.days} optional ontyped={(days) => (one.days = days)} />
    </div>
  {/each}
  <div class="flex flex-wrap gap-2">
    {#each offered.filter((name) => !priced.ways.some((one) => one.name === name)) as name (name)}
      <button
        type="button"
        class="btn btn-plain btn-sm"
        onclick={() => (priced.ways = [...priced.ways, { name, minutes: null, parts: null, days: null }])}
        >Add: {name}</button
      >
    {/each}
  </div>
  <Notice text={quoted.wrong} />
  {#if quoted.value}
    {@const answer = quoted.value}
    <div role="radiogroup" aria-label="Which way" class="grid gap-1">
      {#each answer.ways as one (one.name)}
        <label
          class="border-line has-checked:border-base-content has-checked:bg-base-200 flex cursor-pointer flex-wrap items-center gap-x-3 border-l-4 px-3 py-1.5"
        >
          <input
            type="radio"
            class="radio"
            name="way"
            value={one.name}
            checked={way === one.name}
            onchange={() => onway(one.name)}
          />
          <span class="figure grow text-lg">{one.name}</span>
          <span class="figure text-xl">{money(one.total)}</span>
          <span class="quiet text-sm"
            >{one.wait_days > 0 ? `${one.wait_days} days to wait` : "no wait"}{answer.ways.length > 1 &&
            one.name === answer.cheapest
              ? ", cheapest"
              : ""}{answer.ways.length > 1 && one.name === answer.soonest ? ", soonest" : ""}</span
          >
        </label>
      {/each}
    </div>
  {/if}
</fieldset>
