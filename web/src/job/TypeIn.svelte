<script lang="ts">
  import { tick } from "svelte";

  import type { Step } from "../api/client";
  import { getSession } from "../lib/context";
  import Notice from "../lib/Notice.svelte";
  import { route } from "../routes";
  import { JobOnScreen } from "./job.svelte";
  import { askLabel } from "./steps";
  import { filled, type Typed } from "./type-in";

  const session = getSession();
  const { id, work } = route.getParams("/jobs/:id/work/:work/typed-in");
  const on = new JobOnScreen(id, work);
  void on.load();
  const units = $derived({
    length: session.me?.length_unit ?? "mm",
    torque: session.me?.torque_unit ?? "nm",
  });
  let typed = $state<Record<string, Typed>>({});
  let stopped = $state<string | null>(null);
  let saved = $state(0);
  let saving = $state(false);

  const open = $derived((on.work?.steps ?? []).filter((step) => step.state !== "passed"));
  const has = (code: string): Typed =>
    (typed[code] ??= { done: false, values: {}, way: "", reason: "", note: "" });
  $effect.pre(() => {
    for (const step of open) has(step.code);
  });
  const ready = $derived(
    open.filter((step) => {
      const given = typed[step.code];
      return given !== undefined && filled(step, given);
    }),
  );

  /** One after the other, in the order of the sheet; it stops at the first that is not taken. */
  async function save(event: SubmitEvent) {
    event.preventDefault();
    saving = true;
    saved = 0;
    stopped = null;
    for (;;) {
      const step = open.find((one) => filled(one, has(one.code)));
      if (step === undefined) break;
      if (!(await write(step, has(step.code)))) {
        stopped = step.code;
        await tick();
        document.querySelector(`#typed-${step.code}`)?.scrollIntoView({ block: "center" });
        break;
      }
      saved += 1;
      typed = Object.fromEntries(Object.entries(typed).filter(([code]) => code !== step.code));
      await tick();
    }
    saving = false;
  }
  async function write(step: Step, given: Typed): Promise<boolean> {
    const { values, note } = $state.snapshot(given);
    if (step.act === "choose") return on.choose(step.code, given.way, given.reason);
    const count =
      step.act === "bolts" ? String((step.fastener?.count ?? 1) * (step.fastener?.sides ?? 1)) : "";
    return on.pass(step.code, { typed: count, values, note });
  }
</script>

<svelte:head><title>Type in from paper · Amber Pinion</title></svelte:head>
{#if on.work && on.job}
  <p><a href={`/jobs/${id}/work/${work}`}>Job {on.job.number}, {on.job.vehicle}: {on.work.title}</a></p>
  <h1 class="mb-2">Type in from paper</h1>
  <p class="quiet mb-4">
    Tick what was done and type what was read. Steps are saved in the order of the sheet, and saving stops at
    the first one that is not taken.
  </p>
  <form class="grid gap-2" onsubmit={save}>
    {#each open as step (step.code)}
      {@const given = typed[step.code]}
      {#if given}
        <div
          id={`typed-${step.code}`}
          class={["border-l-4 py-1.5 pl-3", step.hold ? "border-base-content" : "border-line"]}
        >
          <p class="figure text-lg leading-snug">
            {step.title}
            {#if step.hold}<span class="ml-1 border border-current px-1 text-sm leading-none">Hold point</span
              >{/if}
          </p>
          {#if step.act === "read" || step.act === "count"}
            <div class="mt-1 flex flex-wrap gap-3">
              {#each step.asks as ask (ask.name)}
                <label class="grid gap-0.5">
                  <span class="text-sm">{askLabel(ask, units)}</span>
                  <input
                    class="input figure w-36"
                    inputmode="decimal"
                    autocomplete="off"
                    maxlength="40"
                    bind:value={given.values[ask.name]}
                  />
                </label>
              {/each}
            </div>
          {:else if step.act === "choose"}
            <div class="mt-1 flex flex-wrap gap-3">
              <select class="select w-64" aria-label={step.title} bind:value={given.way}>
                <option value="">Not chosen</option>
                {#each step.ways as way (way.code)}<option value={way.code}>{way.title}</option>{/each}
              </select>
              <input
                class="input w-64"
                maxlength="200"
                placeholder="Reason"
                aria-label={`Reason: ${step.title}`}
                bind:value={given.reason}
              />
            </div>
          {:else if step.act === "clock" || step.act === "wait" || step.missing !== null || step.measure === "gear_set"}
            <p class="quiet text-sm">At its own place on the run sheet.</p>
          {:else}
            <label class="min-h-touch inline-flex items-center gap-2">
              <input type="checkbox" class="checkbox" bind:checked={given.done} />
              <span
                >{step.act === "bolts" ? "All bolts torqued and ticked" : "Done"}<span class="sr-only"
                  >: {step.title}</span
                ></span
              >
            </label>
          {/if}
          {#if step.note_asked}
            <input
              class="input mt-1 w-full max-w-xl"
              maxlength="400"
              placeholder={step.note_asked}
              aria-label={step.note_asked}
              bind:value={given.note}
            />
          {/if}
          {#if stopped === step.code}<Notice text={on.wrong} />{/if}
        </div>
      {/if}
    {/each}
    <div
      class="bg-base-100 border-base-content sticky bottom-0 flex flex-wrap items-center gap-3 border-t-2 py-2"
    >
      <button class="btn btn-primary" disabled={saving || ready.length === 0}
        >Save {ready.length}
        {ready.length === 1 ? "step" : "steps"}</button
      >
      <span role="status">{saved > 0 ? `${saved} saved.` : ""}</span>
    </div>
  </form>
{:else}
  <Notice text={on.wrong} />
{/if}
