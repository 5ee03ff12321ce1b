<script lang="ts">
  import type { FloorJob } from "../api/client";

  interface Props {
    state: FloorJob["state"];
    word: string;
  }
  let { state, word }: Props = $props();
  // how full the vessel is: empty when booked, filling in work, shut when waiting, full when signed
  const fill = $derived({ booked: 0, in_work: 6, waiting: 6, to_sign: 12, done: 12 }[state]);
</script>

<span class="figure inline-flex items-center gap-2 text-lg">
  <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true">
    <rect x="2" y="2" width="14" height="14" fill="none" stroke="currentColor" stroke-width="2" />
    <rect x="3" y={15 - fill} width="12" height={fill} fill="currentColor" />
    {#if state === "waiting"}<path d="M1 9h16" stroke="currentColor" stroke-width="3" />{/if}
    {#if state === "done"}<path
        d="m5 9 3 3 5-6"
        class="stroke-base-100"
        fill="none"
        stroke-width="2.2"
      />{/if}
  </svg>
  {word}
</span>
