<script lang="ts">
  import { ask, client, sentence, type Answer, type Me, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { ROLES } from "../lib/words";
  import { writeOnce } from "../lib/writes";
  import ShopHours from "./ShopHours.svelte";
  import WorkshopRules from "./WorkshopRules.svelte";

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
    <div class="grid gap-6">
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
    <div class="grid gap-6">
      {#if me.may.shop_settings}
        <WorkshopRules {me} ontaken={(now) => session.take(now)} />
        <ShopHours />
      {/if}
    </div>
  </div>
{/if}
