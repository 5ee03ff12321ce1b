<script lang="ts">
  import { onMount } from "svelte";

  import { route } from "../routes";

  // the address stays usable however old it is: what follows the job is below its first piece of work now
  onMount(() => {
    const id = route.params.id ?? "";
    const rest = location.pathname.split("/").at(-1) ?? "";
    location.replace(`/jobs/${id}/work/${id}/${rest}${location.hash}`);
  });
</script>

<p role="status">One moment: this page has moved.</p>
