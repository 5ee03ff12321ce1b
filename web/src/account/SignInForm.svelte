<script lang="ts">
  import { ask, client, sentence, type Me } from "../api/client";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";

  interface Props {
    username: string;
    password: string;
    onsignedin: (me: Me) => void;
  }
  let { username = $bindable(), password = $bindable(), onsignedin }: Props = $props();
  let wrong = $state<string | null>(null);
  let busy = $state(false);

  async function signIn(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    await ask(client.GET("/api/v1/csrf"));
    const answer = await ask(client.POST("/api/v1/sign-in", { body: { username, password } }));
    busy = false;
    if (answer.kind === "done") {
      password = "";
      onsignedin(answer.value);
    } else wrong = sentence(answer);
  }
</script>

<form class="grid gap-4" onsubmit={signIn}>
  <Field label="Login name">
    <input
      class="input w-full"
      autocomplete="username"
      autocapitalize="none"
      required
      bind:value={username}
    />
  </Field>
  <Field label="Password">
    <input
      class="input w-full"
      type="password"
      autocomplete="current-password"
      required
      bind:value={password}
    />
  </Field>
  <Notice text={wrong} />
  <button class="btn btn-primary" disabled={busy}>Sign in</button>
</form>
