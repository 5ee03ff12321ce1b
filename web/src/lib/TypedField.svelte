<script lang="ts">
  import Field from "./Field.svelte";

  interface Props {
    label: string;
    value: string;
    hint?: string;
    required?: boolean;
    /** a stack or a sentence instead of one figure */
    long?: boolean;
    /** a sign may be typed, which a phone's figures lack */
    signed?: boolean;
  }
  let { label, value = $bindable(), hint, required = false, long = false, signed = false }: Props = $props();
</script>

<!-- typed text, which the server reads: as it was typed, with or without its unit -->
<Field {label} {...hint === undefined ? {} : { hint }}>
  <input
    class="input w-full"
    inputmode={long || signed ? "text" : "decimal"}
    autocomplete="off"
    maxlength={long ? 200 : 40}
    {required}
    bind:value
  />
</Field>
