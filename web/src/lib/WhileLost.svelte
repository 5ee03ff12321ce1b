<script lang="ts">
  import { getSession } from "./context";

  interface Props {
    /** the last question did not reach the server */
    lost: boolean;
    /** ask again whatever the page shows */
    again: () => Promise<void>;
  }
  let { lost, again }: Props = $props();
  const AGAIN_AFTER_MS = 4000;
  const session = getSession();
  let wasEnded = false;

  // one question at a time, however slow the way has become
  $effect(() => {
    if (!lost) return;
    let left = false;
    let timer: ReturnType<typeof setTimeout>;
    const later = () => {
      timer = setTimeout(() => void again().then(() => left || later()), AGAIN_AFTER_MS);
    };
    later();
    return () => {
      left = true;
      clearTimeout(timer);
    };
  });
  // signed in again after the login ended
  $effect(() => {
    if (wasEnded && !session.ended) void again();
    wasEnded = session.ended;
  });
</script>

<svelte:window ononline={() => void (lost && again())} />
