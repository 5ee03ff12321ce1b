<script lang="ts">
  import type { Step } from "../api/client";
  import { getSession } from "../lib/context";
  import BoltTicks from "./BoltTicks.svelte";

  interface Props {
    step: Step;
    below: string;
    busy: boolean;
    onpass: (typed: string) => void;
  }
  let { step, below, busy, onpass }: Props = $props();
  const session = getSession();
  let typed = $state("");

  const asks: Partial<Record<Step["check"], string>> = {
    torque: "Rotating torque, turned steadily",
    litres: "Litres poured",
    odometer: "Odometer (km)",
    spread: "Greatest opening on the dial (mm)",
  };
  const benchIn = $derived(step.missing === "");
  const BENCH_TABS: Partial<Record<Step["check"], string>> = { bench_pattern: "#pattern" };
  const label = $derived(asks[step.check]);
  const limit = $derived.by(() => {
    const sheet = step.limit;
    if (sheet === null) return null;
    const least = sheet.least === null ? "" : `${sheet.least} to `;
    return `${sheet.least === null ? "Up to " : ""}${least}${sheet.greatest ?? ""} ${sheet.unit}. ${sheet.source_note}`;
  });
  const unit = $derived(step.check === "torque" ? (session.me?.torque_unit === "inlb" ? "in-lb" : "Nm") : "");
</script>

{#if step.check === "confirm"}
  <button
    class={["btn", step.is_next ? "btn-primary" : "btn-neutral"]}
    disabled={busy}
    onclick={() => onpass("")}
  >
    Confirm<span class="sr-only">: {step.title}</span>
  </button>
{:else if step.check === "bolts"}
  <BoltTicks
    count={step.limit?.greatest ?? null}
    next={step.is_next}
    {busy}
    onall={(ticked) => onpass(String(ticked))}
  />
{:else if step.check === "gear_set"}
  <a class={["btn", step.is_next ? "btn-primary" : "btn-neutral"]} href={`${below}/gear-set`}
    >Identify the gear set</a
  >
{:else if step.missing !== null}
  {#if step.missing}<p class="mb-2">{step.missing}</p>{/if}
  <div class="flex flex-wrap gap-2">
    {#if benchIn}
      <button class="btn btn-primary" disabled={busy} onclick={() => onpass("")}
        >In at the bench: confirm</button
      >
    {/if}
    <a
      class={["btn", benchIn ? "btn-plain" : "btn-primary"]}
      href={`${below}/bench${BENCH_TABS[step.check] ?? ""}`}>Go to the Set-up bench</a
    >
  </div>
{:else}
  <form
    class="flex flex-wrap items-end gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      onpass(typed);
    }}
  >
    <label class="grid gap-1">
      <span class="label-text">{label}{unit ? `, ${unit}` : ""}</span>
      <input class="input w-40" inputmode="decimal" autocomplete="off" maxlength="40" bind:value={typed} />
    </label>
    <button class={["btn", step.is_next ? "btn-primary" : "btn-neutral"]} disabled={busy}>Record</button>
    {#if limit}
      <p class="quiet basis-full text-sm">
        {limit}
        {#if step.limit?.is_sample}<span class="sample ml-1">Sample</span>{/if}
      </p>
    {/if}
  </form>
{/if}
