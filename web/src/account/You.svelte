<script lang="ts">
  import { ask, client, sentence, type Answer, type Me, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import { ROLES } from "../lib/words";
  import { writeOnce } from "../lib/writes";
  import ShopHours from "./ShopHours.svelte";

  const session = getSession();
  const me = $derived(session.me);
  let wrong = $state<string | null>(null);

  function took(answer: Answer<Me>) {
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") session.take(answer.value);
  }
  const unanswered = new UnansweredIds();
  type Preferences = Partial<Pick<Schemas["PreferencesIn"], "length_unit" | "torque_unit" | "theme">>;
  async function prefer(change: Preferences) {
    // what is preferred is a unit itself, so it takes the place of the one that the write is in
    took(
      await writeOnce(unanswered, "prefer", change, (body) =>
        client.PATCH("/api/v1/me", { body: { ...body, length_unit: null, torque_unit: null, ...change } }),
      ),
    );
  }
  async function setShop(foreman_signs: boolean) {
    const change = { foreman_signs, reason: "" };
    took(await writeOnce(unanswered, "shop", change, (body) => client.PATCH("/api/v1/shop", { body })));
    await loadRules();
  }
  let rules = $state.raw<Schemas["RuleOut"][]>([]);
  async function loadRules() {
    const answer = await ask(client.GET("/api/v1/shop/rules"));
    if (answer.kind === "done") rules = answer.value;
  }
  $effect(() => {
    if (me?.may.shop_settings) void loadRules();
  });
  let current = $state("");
  let fresh = $state("");
  let told = $state<string | null>(null);
  let refused = $state<string | null>(null);
  async function changePassword(event: SubmitEvent) {
    event.preventDefault();
    const answer = await ask(client.POST("/api/v1/me/password", { body: { current, new: fresh } }));
    refused = answer.kind === "done" ? null : sentence(answer);
    told = answer.kind === "done" ? "Your password is changed. Other devices have been signed out." : null;
    if (answer.kind === "done") current = fresh = "";
  }
</script>

<svelte:head><title>You · Amber Pinion</title></svelte:head>
{#if me}
  <h1>{me.display_name}</h1>
  <p class="quiet mb-6">{ROLES[me.role]} at {me.shop.name}</p>
  <Notice text={wrong} />
  <div class="grid items-start gap-x-12 gap-y-6 lg:grid-cols-2">
    <section class="rule-top grid gap-4 pt-3">
      <h2>Units and theme</h2>
      <Field
        label="Dial unit when none is typed"
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
      <Field label="Torque unit when none is typed">
        <select
          class="select w-full"
          value={me.torque_unit}
          onchange={(event) => void prefer({ torque_unit: event.currentTarget.value as Me["torque_unit"] })}
        >
          <option value="nm">newton-metres</option>
          <option value="inlb">pound-inches</option>
        </select>
      </Field>
      <Field label="Theme">
        <select
          class="select w-full"
          value={me.theme}
          onchange={(event) => void prefer({ theme: event.currentTarget.value as Me["theme"] })}
        >
          <option value="bay">Light, for the bench</option>
          <option value="pit">Dark, for under a vehicle</option>
        </select>
      </Field>
    </section>
    <div class="grid gap-6">
      {#if me.may.shop_settings}
        <section class="rule-top pt-3">
          <h2 class="mb-2">Workshop</h2>
          <label class="min-h-touch flex items-center gap-3">
            <input
              type="checkbox"
              class="checkbox checkbox-neutral"
              checked={me.shop.foreman_signs}
              onchange={(event) => void setShop(event.currentTarget.checked)}
            />
            <span>Only a foreman signs off, and never the person who measured</span>
          </label>
          {#if rules.length > 0}
            <details>
              <summary class="min-h-touch cursor-pointer py-2">Earlier settings</summary>
              <ul class="grid gap-1">
                {#each rules as rule (rule.at)}
                  <li>
                    {rule.foreman_signs
                      ? "A foreman who did not measure"
                      : "The person who measured may sign off"}
                    <span class="quiet">{rule.by_name}{rule.at ? `, ${when(rule.at)}` : ""}</span>
                  </li>
                {/each}
              </ul>
            </details>
          {/if}
        </section>
        <ShopHours />
      {/if}
      <section class="rule-top pt-3">
        <h2 class="mb-2">Password</h2>
        <form class="grid gap-3" onsubmit={changePassword}>
          <Field label="Current password"
            ><input
              class="input w-full"
              type="password"
              autocomplete="current-password"
              maxlength="200"
              required
              bind:value={current}
            /></Field
          >
          <Field label="New password" hint="At least ten characters, and not one that everybody uses."
            ><input
              class="input w-full"
              type="password"
              autocomplete="new-password"
              maxlength="200"
              required
              bind:value={fresh}
            /></Field
          >
          <Notice text={refused} />
          {#if told}<Notice kind="told" text={told} />{/if}
          <button class="btn btn-neutral justify-self-start">Change password</button>
        </form>
      </section>
      <button class="btn btn-plain justify-self-start" onclick={() => void session.signOut()}>Sign out</button
      >
    </div>
  </div>
{/if}
