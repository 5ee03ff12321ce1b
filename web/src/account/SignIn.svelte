<script lang="ts">
  import { ask, client, type Me, type Schemas } from "../api/client";
  import { ROLES } from "../lib/words";
  import SignInForm from "./SignInForm.svelte";

  interface Props {
    onsignedin: (me: Me) => void;
  }
  let { onsignedin }: Props = $props();

  let username = $state("");
  let password = $state("");
  let welcome = $state.raw<Schemas["WelcomeOut"] | null>(null);
  /** whether the shop was asked for: what stands on the page from then on does not move under a finger */
  let asked = $state(false);

  async function load() {
    const answer = await ask(client.GET("/api/v1/welcome"));
    if (answer.kind === "done") welcome = answer.value;
    asked = true;
  }
  void load();

  function pick(name: string) {
    username = name;
    password = welcome?.demo_password ?? "";
  }
</script>

<svelte:head><title>Sign in · Amber Pinion</title></svelte:head>
<main class="grid min-h-dvh lg:grid-cols-[1.15fr_1fr]">
  <div class="bg-neutral text-neutral-content flex flex-col justify-between gap-10 p-6 sm:p-12">
    <p class="figure text-2xl">Amber Pinion</p>
    <!-- a gear tooth seen on its flank, with the patch that marking compound leaves -->
    <svg viewBox="0 0 520 250" class="w-full max-w-[36rem] max-lg:hidden" aria-hidden="true">
      <g fill="none" stroke="currentColor" stroke-width="2.5">
        <path d="M20 60 C170 22 350 18 500 62 L486 196 C350 150 170 154 34 194 Z" />
        <path d="M34 194 20 226 C170 188 350 184 500 228 L486 196" opacity=".6" />
        <path d="M20 60 8 74 20 226M500 62l12 14-12 152" opacity=".35" />
      </g>
      <path
        class="fill-primary"
        d="M150 98c44-24 128-30 176-16 20 8 12 46-14 58-50 16-118 18-156 6-24-10-30-36-6-48Z"
      />
      <g fill="currentColor" font-size="17" class="figure">
        <text x="18" y="48">toe</text><text x="474" y="50">heel</text>
      </g>
    </svg>
    <p class="max-w-prose text-lg">
      What is it, what did I measure, is it in, what do I change next, and will it land.
    </p>
  </div>
  <div class="flex flex-col justify-center gap-8 p-6 sm:p-12">
    {#if asked}<div class="w-full max-w-md">
        <h1 class="mb-6">{welcome?.shop_name ?? "Sign in"}</h1>
        <SignInForm bind:username bind:password {onsignedin} />
        {#if welcome?.is_demo}
          <section class="mt-8">
            <h2 class="mb-1">This is the demo</h2>
            <p class="quiet mb-3">Pick somebody; the password is <strong>{welcome.demo_password}</strong></p>
            <ul class="grid gap-1">
              {#each welcome.demo_logins as person (person.username)}
                <li>
                  <button
                    type="button"
                    class="btn btn-plain w-full justify-between"
                    onclick={() => pick(person.username)}
                  >
                    <span>{person.display_name}</span><span class="quiet font-normal"
                      >{ROLES[person.role]}{person.where ? `, ${person.where}` : ""}</span
                    >
                  </button>
                </li>
              {/each}
            </ul>
          </section>
        {/if}
      </div>{/if}
  </div>
</main>
