<script lang="ts">
  import type { Schemas } from "../api/client";
  import { when } from "../lib/quantity";

  interface Props {
    found: Schemas["AsFoundReadingOut"][];
  }
  let { found }: Props = $props();
</script>

<details class="group mt-4">
  <summary class="min-h-touch flex cursor-pointer list-none items-center gap-3">
    <svg width="14" height="14" viewBox="0 0 14 14" class="shrink-0 group-open:rotate-90" aria-hidden="true">
      <path d="m4 1 7 6-7 6Z" fill="currentColor" />
    </svg>
    <span class="figure text-lg">As found</span>
    <span class="quiet">{found.length} {found.length === 1 ? "reading" : "readings"}</span>
  </summary>
  <table class="w-full text-left">
    <thead><tr><th>What</th><th>As found</th><th>Since</th></tr></thead>
    <tbody>
      {#each found as one (one.name)}
        <tr class="border-line border-t">
          <td class="py-1 pr-3"
            >{one.what}<span class="quiet block text-xs">{one.by_name}, {when(one.at)}</span></td
          >
          <td class="figure pr-3">{one.entered}</td>
          <td class="figure pr-3">{one.since || "–"}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</details>
