<script lang="ts">
  import type { Snippet } from "svelte";

  import { type LengthUnit } from "../lib/quantity";
  import { SIDES } from "./sides";
  import StackDrawn from "./StackDrawn.svelte";
  import { titled, type Part } from "./wall.svelte";

  interface Props {
    part: Part;
    unit: LengthUnit;
    large?: boolean;
    /** in the order of another list than that of taking off */
    number?: number | undefined;
    children?: Snippet;
  }
  let { part, unit, large = false, number, children }: Props = $props();
  const off = $derived(part.off);
  const facts = $derived(
    off
      ? [
          part.key.startsWith("own_") && SIDES.find((one) => one.code === off.side)?.word,
          off.facing,
          off.mark && `mark: ${off.mark}`,
          off.bag && `bag ${off.bag}`,
          off.counted !== null && `${off.counted} counted`,
          off.note,
        ].filter(Boolean)
      : [],
  );
</script>

<div class={["flex gap-3", large ? "max-sm:flex-col" : "max-sm:flex-wrap"]}>
  {#each part.photos.slice(-1) as photo (photo)}
    <a href={`/api/v1/part-photos/${photo}`} target="_blank" rel="noopener" class="shrink-0">
      <img
        class={["border-line border object-cover", large ? "max-h-64 w-full sm:w-80" : "size-16"]}
        src={`/api/v1/part-photos/${photo}${large ? "" : "/small"}`}
        loading="lazy"
        alt={`Picture of ${part.name}`}
      />
    </a>
  {/each}
  <div class="min-w-0 grow">
    <p class={large ? "figure text-2xl" : "figure text-lg leading-tight"}>
      {#if !large && (number ?? off?.order)}<span class="quiet mr-1">{number ?? off?.order}</span
        >{/if}{titled(part.name)}
    </p>
    {#if facts.length > 0}<p class={large ? "text-lg" : "text-sm"}>{facts.join(", ")}</p>{/if}
    {#if off && off.stack.length > 0}<StackDrawn stack={off.stack} {unit} />{/if}
    {#if part.seen?.decision_word}
      <p class="text-sm">
        <strong>{part.seen.decision_word}</strong>{#if part.seen.findings_word}: {part.seen
            .findings_word}{/if}{#if part.seen.way}, {part.seen.way}{/if}
      </p>
    {/if}
    {#if part.photos.length > 1}<p class="quiet text-sm">{part.photos.length} pictures</p>{/if}
    {#if children && large}<div class="mt-1 flex flex-wrap gap-2">{@render children()}</div>{/if}
  </div>
  {#if children && !large}
    <div class="flex items-start gap-2 max-sm:w-full max-sm:flex-wrap sm:shrink-0">{@render children()}</div>
  {/if}
</div>
