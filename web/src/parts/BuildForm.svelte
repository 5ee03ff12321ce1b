<script lang="ts">
  import Field from "../lib/Field.svelte";
  import { dayOf } from "../lib/quantity";
  import { titled, type WallOnScreen } from "./wall.svelte";

  interface Props {
    on: WallOnScreen;
  }
  let { on }: Props = $props();
  const wall = $derived(on.wall);

  function save(changed: Record<string, string | boolean>, asked?: string[]) {
    if (!wall) return;
    const facts = Object.fromEntries(wall.build.map((fact) => [fact.name, fact.value]));
    void on.build(
      { ...facts, ...changed },
      asked ?? wall.asked.filter((one) => one.on).map((one) => one.code),
    );
  }
</script>

{#if wall}
  <details class="mb-4" open={wall.guessed && wall.parts.every((part) => part.off === null)}>
    <summary class="min-h-touch flex cursor-pointer items-center gap-2 underline underline-offset-3"
      >How it is built{#if wall.taken_over}: as on its last visit ({wall.taken_over.by_name}, {dayOf(
          wall.taken_over.at,
        )}). Correct what has changed{:else if wall.guessed}: taken from the sheet and the kind of work.
        Correct what is wrong{/if}</summary
    >
    <div class="grid gap-x-5 gap-y-3 pb-3 sm:grid-cols-2 lg:grid-cols-4">
      {#each wall.build as fact (fact.name)}
        {#if fact.choices.length > 0}
          <Field label={fact.label}>
            <select
              class="select w-full"
              value={fact.value}
              disabled={on.busy || wall.signed}
              onchange={(event) => save({ [fact.name]: event.currentTarget.value })}
            >
              {#each fact.choices as one (one.code)}<option value={one.code}>{one.label}</option>{/each}
            </select>
          </Field>
        {:else}
          <label class="min-h-touch flex items-center gap-2 self-end">
            <input
              class="checkbox"
              type="checkbox"
              checked={fact.value === true}
              disabled={on.busy || wall.signed}
              onchange={(event) => save({ [fact.name]: event.currentTarget.checked })}
            />
            {fact.label}
          </label>
        {/if}
      {/each}
    </div>
    {#if wall.asked.length > 0}
      <fieldset class="flex flex-wrap items-center gap-x-4">
        <legend class="label-text">Comes off as well</legend>
        {#each wall.asked as one (one.code)}
          <label class="min-h-touch flex items-center gap-2">
            <input
              class="checkbox"
              type="checkbox"
              checked={one.on}
              disabled={on.busy || wall.signed}
              onchange={(event) => {
                const codes = wall.asked
                  .filter((other) => other.on && other.code !== one.code)
                  .map((other) => other.code);
                save({}, event.currentTarget.checked ? [...codes, one.code] : codes);
              }}
            />
            {titled(one.label)}
          </label>
        {/each}
      </fieldset>
    {/if}
  </details>
{/if}
