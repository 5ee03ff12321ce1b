<script lang="ts">
  import type { FloorJob } from "../api/client";
  import StateMark from "./StateMark.svelte";

  interface Props {
    job: FloorJob;
    next: boolean;
    everywhere: boolean;
  }
  let { job, next, everywhere }: Props = $props();
  const waits = $derived(job.waits_for !== "nothing" && job.state !== "done");
</script>

<li class="border-line border-b">
  <a
    href={`/jobs/${job.id}`}
    class="hover:bg-base-200 grid grid-cols-[3.5rem_1fr] items-start gap-x-3 gap-y-1 py-3 md:grid-cols-[4rem_minmax(0,1.1fr)_minmax(0,1.3fr)_12.5rem]"
  >
    <span class={["figure px-1 text-3xl leading-none", next && "bg-next text-next-content"]}
      >{job.number}</span
    >
    <span class="min-w-0">
      <span class="figure block text-xl leading-tight">{job.vehicle}</span>
      <span class="quiet block">{job.customer}</span>
      {#if everywhere}<span class="quiet block">{job.shop}</span>{/if}
    </span>
    <span class="col-start-2 min-w-0 md:col-start-auto">
      <span class="block text-lg leading-snug">
        {#if next}<span class="sr-only">Next: </span>{/if}{job.next_action}
      </span>
      <span class="quiet line-clamp-1 block">{job.complaint}</span>
    </span>
    <span class="col-start-2 md:col-start-auto">
      <StateMark state={job.state} word={job.state_word} />
      {#if waits}<span class="block">{job.waits_word}{job.waits_note ? `: ${job.waits_note}` : ""}</span>{/if}
    </span>
  </a>
</li>
