<script lang="ts">
  import Field from "../lib/Field.svelte";

  interface Props {
    label: string;
    more?: string;
    password: string;
  }
  let { label, more = "", password = $bindable() }: Props = $props();
</script>

<Field {label} hint={`At least ten characters, and not one that everybody uses.${more}`}>
  <input
    class="input w-full"
    type="password"
    autocomplete="new-password"
    maxlength="200"
    required
    bind:value={password}
  />
</Field>
