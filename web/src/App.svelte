<script lang="ts">
  import { Router } from "sv-router";

  import SignIn from "./account/SignIn.svelte";
  import QuotePage from "./parts/QuotePage.svelte";
  import SharedPage from "./ratio/SharedPage.svelte";
  import SignInForm from "./account/SignInForm.svelte";
  import { whenSignedOut, type Me } from "./api/client";
  import { setSession } from "./lib/context";
  import Help from "./help/Help.svelte";
  import Dialog from "./lib/Dialog.svelte";
  import { Session } from "./lib/session.svelte";
  import "./routes";
  import TopBar from "./TopBar.svelte";

  const session = new Session();
  setSession(session);
  whenSignedOut(() => session.end());
  // what the workshop lends by a link is shown without a login, and nothing else is
  const sharedToken = /^\/shared\/([\w-]{10,100})$/.exec(location.pathname)?.[1] ?? null;
  const quoteToken = /^\/quote\/([\w-]{10,100})$/.exec(location.pathname)?.[1] ?? null;
  if (sharedToken === null && quoteToken === null) void session.load();
  let help = $state<ReturnType<typeof Help>>();
  let username = $state("");
  let password = $state("");

  /** whoever was sent here from the operators' pages goes back there */
  function signedIn(me: Me) {
    session.take(me);
    const to = new URLSearchParams(location.search).get("to");
    if (to?.startsWith("/admin/")) location.assign(to);
  }

  $effect(() => {
    document.documentElement.dataset.theme = session.me?.theme ?? "bay";
  });
</script>

{#if sharedToken !== null}
  <SharedPage token={sharedToken} />
{:else if quoteToken !== null}
  <QuotePage token={quoteToken} />
{:else if !session.loaded}
  <p class="p-6" role="status">Opening the workshop</p>
{:else if session.me === null && session.lost}
  <main class="p-6">
    <h1>The workshop's server does not answer</h1>
    <p class="my-3">Is it running, and is this machine on its network?</p>
    <button class="btn btn-primary" onclick={() => void session.load()}>Try again</button>
  </main>
{:else if session.me === null}
  <SignIn onsignedin={signedIn} />
{:else}
  <a class="btn btn-primary fixed top-2 left-2 z-50 -translate-y-24 focus:translate-y-0" href="#main"
    >Skip to the page</a
  >
  <TopBar me={session.me} onsearch={() => help?.show("search")} />
  <main id="main" tabindex="-1" class="mx-auto w-full max-w-[80rem] px-3 pt-4 pb-10 outline-none sm:px-5">
    <Router />
  </main>
  {#if !session.ended}<Help bind:this={help} />{/if}
  {#if session.ended}
    <Dialog title="You have been signed out" onclose={() => undefined}>
      <p class="mb-4">Sign in again to go on. What you typed is kept.</p>
      <SignInForm bind:username bind:password onsignedin={(me) => session.take(me)} />
    </Dialog>
  {/if}
{/if}
