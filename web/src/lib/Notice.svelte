<script lang="ts">
  interface Props {
    text: string | null;
    kind?: "wrong" | "told";
  }
  let { text, kind = "wrong" }: Props = $props();
</script>

<div role={kind === "wrong" ? "alert" : "status"}>
  {#if text}
    <p
      class={[
        "bg-base-200 border-l-4 px-3 py-2",
        kind === "wrong" ? "border-out text-base-content" : "border-secondary",
      ]}
    >
      {text}
    </p>
  {/if}
</div>
