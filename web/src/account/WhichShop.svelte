<script lang="ts">
  import { getSession } from "../lib/context";

  const session = getSession();
</script>

{#if session.me?.shop.others}<p class="quiet mb-3">{session.me.shop.name}</p>{/if}
