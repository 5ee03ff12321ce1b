<script lang="ts">
  import type { Snippet } from "svelte";

  interface Props {
    title: string;
    onclose: () => void;
    children: Snippet;
  }
  let { title, onclose, children }: Props = $props();
  let dialog: HTMLDialogElement;

  $effect(() => {
    const before = document.activeElement;
    dialog.showModal();
    return () => {
      dialog.close();
      // closing gives the focus back only while the dialog is still in the page
      if (before instanceof HTMLElement && before.isConnected) before.focus();
    };
  });
</script>

<dialog
  bind:this={dialog}
  class="border-base-content bg-base-100 text-base-content m-auto w-[min(36rem,calc(100vw-1.5rem))] border-2 p-5 backdrop:bg-black/55"
  aria-label={title}
  oncancel={(event) => {
    event.preventDefault();
    onclose();
  }}
>
  <h2 class="mb-3">{title}</h2>
  {@render children()}
</dialog>
