<script lang="ts">
  import { ask, client, sentence, type Answer, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Dialog from "../lib/Dialog.svelte";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import { ROLES } from "../lib/words";
  import { writeOnce } from "../lib/writes";
  import LoginName from "./LoginName.svelte";
  import NewPassword from "./NewPassword.svelte";
  import Workshops from "./Workshops.svelte";

  type Person = Schemas["PersonOut"];
  type Role = Person["role"];
  const ROLE_NAMES = Object.entries(ROLES) as [Role, string][];
  const session = getSession();
  const unanswered = new UnansweredIds();
  let people = $state.raw<Person[] | null>(null);
  let wrong = $state<string | null>(null);
  let told = $state<string | null>(null);
  const working = $derived(people?.filter((one) => one.active) ?? []);
  const closed = $derived(people?.filter((one) => !one.active) ?? []);

  let username = $state("");
  let display_name = $state("");
  let role = $state<Role>("technician");
  let password = $state("");
  let refused = $state<string | null>(null);

  let forWhom = $state.raw<Person | null>(null);
  let fresh = $state("");
  let weak = $state<string | null>(null);

  async function load() {
    const answer = await ask(client.GET("/api/v1/people"));
    if (answer.kind === "done") people = answer.value;
    else wrong = sentence(answer);
  }
  void load();

  /** What was done shows in the list; what was refused is said, and the list shows how it stands. */
  async function took(answer: Answer<Person[]>): Promise<string | null> {
    if (answer.kind === "done") people = answer.value;
    else await load();
    return answer.kind === "done" ? null : sentence(answer);
  }
  async function add(event: SubmitEvent) {
    event.preventDefault();
    const name = display_name;
    refused = await took(
      await writeOnce(unanswered, "add", { username, display_name, role, password }, (body) =>
        client.POST("/api/v1/people", { body }),
      ),
    );
    told = refused === null ? `${name} can sign in now.` : null;
    if (refused === null) username = display_name = password = "";
  }
  async function change(person: Person, part: { role?: Role; active?: boolean }) {
    wrong = await took(
      await writeOnce(unanswered, `change ${person.id}`, part, (body) =>
        client.PATCH("/api/v1/people/{person_id}", { params: { path: { person_id: person.id } }, body }),
      ),
    );
    const now = people?.find((one) => one.id === person.id);
    told =
      wrong !== null || !now
        ? null
        : now.active
          ? `${now.display_name}: ${ROLES[now.role]}.`
          : `The login of ${now.display_name} is closed.`;
  }
  async function setPassword(event: SubmitEvent) {
    event.preventDefault();
    const person = forWhom;
    if (person === null) return;
    weak = await took(
      await writeOnce(unanswered, `password ${person.id}`, { password: fresh }, (body) =>
        client.POST("/api/v1/people/{person_id}/password", {
          params: { path: { person_id: person.id } },
          body,
        }),
      ),
    );
    if (weak !== null) return;
    told = `${person.display_name} has a new password. Their devices have been signed out.`;
    forWhom = null;
  }
</script>

<svelte:head><title>People · Amber Pinion</title></svelte:head>
<h1>People</h1>
<p class="quiet mb-4">
  {#if session.me?.shop.others}Logins of {session.me.shop.name}.{/if} A closed login cannot sign in. What that person
  recorded keeps their name.
</p>
<Notice text={wrong} />
{#if told}<Notice kind="told" text={told} />{/if}
<div class="grid items-start gap-x-12 gap-y-6 lg:grid-cols-[1.7fr_1fr]">
  <section class="rule-top pt-3" aria-label="Logins">
    {#snippet row(person: Person)}
      <li class="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-1 border-b py-2">
        <div class="min-w-44 flex-1">
          <strong>{person.display_name}</strong>
          <span class="quiet block text-sm"
            >{person.username}, {person.last_login
              ? `last signed in ${when(person.last_login)}`
              : "never signed in"}</span
          >
        </div>
        <div class="flex flex-wrap items-center gap-x-4 gap-y-1 sm:w-[26.5rem]">
          {#if person.operator}
            <span class="quiet">looks after the server; changed there</span>
          {:else if person.active}
            <select
              class="select w-40"
              aria-label={`Role of ${person.display_name}`}
              value={person.role}
              onchange={(event) => void change(person, { role: event.currentTarget.value as Role })}
            >
              {#each ROLE_NAMES as [value, name] (value)}<option {value}>{name}</option>{/each}
            </select>
            {#if person.username !== session.me?.username}
              <button
                class="btn btn-plain"
                onclick={() => {
                  forWhom = person;
                  fresh = "";
                  weak = null;
                }}>New password</button
              >
              <button class="btn btn-plain" onclick={() => void change(person, { active: false })}
                >Close login</button
              >
            {:else}<a class="btn btn-plain" href="/you">You</a>{/if}
          {:else}
            <span class="quiet">{ROLES[person.role]}</span>
            <button class="btn btn-plain" onclick={() => void change(person, { active: true })}
              >Open again</button
            >
          {/if}
        </div>
      </li>
    {/snippet}
    <h2 class="mb-1">Logins</h2>
    <ul>
      {#each working as person (person.id)}{@render row(person)}{/each}
    </ul>
    {#if closed.length > 0}
      <h2 class="mt-6 mb-1">Closed</h2>
      <ul>
        {#each closed as person (person.id)}{@render row(person)}{/each}
      </ul>
    {/if}
  </section>
  <section class="rule-top pt-3">
    <h2 class="mb-2">Add somebody</h2>
    <form class="grid gap-3" onsubmit={add} autocomplete="off">
      <Field label="Name" hint="As it stands on readings and sign-offs.">
        <input class="input w-full" maxlength="120" required bind:value={display_name} />
      </Field>
      <LoginName label="Login name" bind:username />
      <Field label="Role">
        <select class="select w-full" bind:value={role}>
          {#each ROLE_NAMES as [value, name] (value)}<option {value}>{name}</option>{/each}
        </select>
      </Field>
      <NewPassword label="First password" more=" They change it under their name." bind:password />
      <Notice text={refused} />
      <button class="btn btn-neutral justify-self-start">Add login</button>
    </form>
  </section>
  {#if session.me && session.me.shops.length > 0}
    <Workshops me={session.me} ontaken={(me) => session.take(me)} />
  {/if}
</div>
{#if forWhom}
  <Dialog title={`New password for ${forWhom.display_name}`} onclose={() => (forWhom = null)}>
    <form class="grid gap-4" onsubmit={setPassword}>
      <NewPassword label="Password" bind:password={fresh} />
      <Notice text={weak} />
      <div class="flex gap-2">
        <button class="btn btn-neutral">Set password</button>
        <button type="button" class="btn btn-plain" onclick={() => (forWhom = null)}>Cancel</button>
      </div>
    </form>
  </Dialog>
{/if}
