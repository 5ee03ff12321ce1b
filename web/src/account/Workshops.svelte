<script lang="ts">
  import { client, sentence, type Me } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { writeOnce } from "../lib/writes";
  import LoginName from "./LoginName.svelte";
  import NewPassword from "./NewPassword.svelte";

  interface Props {
    me: Me;
    ontaken: (me: Me) => void;
  }
  let { me, ontaken }: Props = $props();
  const unanswered = new UnansweredIds();
  let name = $state("");
  let display_name = $state("");
  let username = $state("");
  let password = $state("");
  let refused = $state<string | null>(null);
  let told = $state<string | null>(null);

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const answer = await writeOnce(unanswered, "shop", { name, display_name, username, password }, (body) =>
      client.POST("/api/v1/shops", { body }),
    );
    refused = answer.kind === "done" ? null : sentence(answer);
    told =
      answer.kind === "done" ? `${name} is there. ${display_name} can sign in and add the others.` : null;
    if (answer.kind !== "done") return;
    ontaken(answer.value);
    name = display_name = username = password = "";
  }
</script>

<section class="rule-top pt-3" aria-label="Workshops">
  <h2 class="mb-1">Workshops</h2>
  <p class="quiet mb-2">
    Jobs, vehicles, logins and drawers belong to one workshop. Sheets can be shared with all of them.
  </p>
  <ul class="mb-4">
    {#each me.shops as shop (shop.id)}<li class="border-base-300 border-b py-2">{shop.name}</li>{/each}
  </ul>
  {#if told}<Notice kind="told" text={told} />{/if}
  <form class="grid gap-3" onsubmit={add} autocomplete="off" aria-label="Add a workshop">
    <Field label="Name of the new workshop">
      <input class="input w-full" maxlength="120" required bind:value={name} />
    </Field>
    <Field label="Its foreman">
      <input class="input w-full" maxlength="120" required bind:value={display_name} />
    </Field>
    <LoginName label="Foreman's login name" bind:username />
    <NewPassword label="Foreman's first password" bind:password />
    <Notice text={refused} />
    <button class="btn btn-neutral justify-self-start">Add workshop</button>
  </form>
</section>
