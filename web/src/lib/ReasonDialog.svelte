<script lang="ts">
  import Dialog from "./Dialog.svelte";
  import Field from "./Field.svelte";
  import Notice from "./Notice.svelte";

  interface Props {
    title: string;
    ask: string;
    wrong: string | null;
    onreason: (reason: string) => void;
    onclose: () => void;
  }
  let { title, ask, wrong, onreason, onclose }: Props = $props();
  let reason = $state("");
</script>

<Dialog {title} {onclose}>
  <form
    class="grid gap-4"
    onsubmit={(event) => {
      event.preventDefault();
      onreason(reason);
    }}
  >
    <Field label={ask}><input class="input w-full" maxlength="200" required bind:value={reason} /></Field>
    <Notice text={wrong} />
    <div class="flex gap-2">
      <button class="btn btn-neutral">Confirm</button>
      <button type="button" class="btn btn-plain" onclick={onclose}>Cancel</button>
    </div>
  </form>
</Dialog>
