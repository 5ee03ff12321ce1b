<script lang="ts">
  import Field from "../lib/Field.svelte";

  interface Props {
    label: string;
    username: string;
  }
  let { label, username = $bindable() }: Props = $props();
</script>

<Field {label} hint="Letters, digits, dots and dashes, without spaces.">
  <input
    class="input w-full"
    maxlength="40"
    autocapitalize="none"
    autocomplete="off"
    required
    bind:value={username}
  />
</Field>
