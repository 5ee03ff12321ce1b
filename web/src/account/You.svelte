<script lang="ts">
  import { ask, client, sentence, type Answer, type Me, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { ROLES } from "../lib/words";

  const session = getSession();
  const me = $derived(session.me);
  let wrong = $state<string | null>(null);

  function took(answer: Answer<Me>) {
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") session.take(answer.value);
  }
  async function prefer(body: Schemas["PreferencesIn"]) {
    took(await ask(client.PATCH("/api/v1/me", { body })));
  }
  async function setShop(foreman_signs: boolean) {
    took(await ask(client.PATCH("/api/v1/shop", { body: { foreman_signs } })));
  }
</script>

<svelte:head><title>You · Amber Pinion</title></svelte:head>
{#if me}
  <h1>{me.display_name}</h1>
  <p class="quiet mb-6">{ROLES[me.role]} at {me.shop.name}</p>
  <div class="grid max-w-xl gap-6">
    <Notice text={wrong} />
    <Field
      label="Unit of a bare number on the dial"
      hint="A unit typed with the number always counts: 8 thou, 0.2mm."
    >
      <select
        class="select w-full"
        value={me.length_unit}
        onchange={(event) => void prefer({ length_unit: event.currentTarget.value as Me["length_unit"] })}
      >
        <option value="hundredths_mm">hundredths of a millimetre (21 is 0.21 mm)</option>
        <option value="thou">thousandths of an inch (8 is 8 thou)</option>
        <option value="mm">millimetres (0.21 is 0.21 mm)</option>
      </select>
    </Field>
    <Field label="Unit of a bare torque">
      <select
        class="select w-full"
        value={me.torque_unit}
        onchange={(event) => void prefer({ torque_unit: event.currentTarget.value as Me["torque_unit"] })}
      >
        <option value="nm">newton-metres</option>
        <option value="inlb">pound-inches</option>
      </select>
    </Field>
    <Field label="Look">
      <select
        class="select w-full"
        value={me.theme}
        onchange={(event) => void prefer({ theme: event.currentTarget.value as Me["theme"] })}
      >
        <option value="bay">Bay: light, like paper</option>
        <option value="pit">Pit: dark, for under a vehicle</option>
      </select>
    </Field>
    {#if me.may.shop_settings}
      <section class="rule-top pt-3">
        <h2 class="mb-2">The shop</h2>
        <label class="min-h-touch flex items-center gap-3">
          <input
            type="checkbox"
            class="checkbox checkbox-neutral"
            checked={me.shop.foreman_signs}
            onchange={(event) => void setShop(event.currentTarget.checked)}
          />
          <span>Only a foreman signs a job off, and never the one who measured</span>
        </label>
      </section>
    {/if}
    <button class="btn btn-plain justify-self-start" onclick={() => void session.signOut()}>Sign out</button>
  </div>
{/if}
