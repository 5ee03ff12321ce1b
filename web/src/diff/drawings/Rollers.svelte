<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    question: Asked<"bearing.full_complement">;
    answer: Answered<"bearing.full_complement">;
    /** as it stands in the field: quicker than the server, so that no tap is lost */
    counted: number;
    oncount: (count: number) => void;
  }
  let { question, answer, counted, oncount }: Props = $props();
  const pitch = $derived(question.pitch_mm ?? (question.inner_race_mm ?? 0) + question.roller_mm);
  const per = $derived(190 / (pitch + question.roller_mm));
  const rollers = $derived(
    Array.from({ length: answer.fits }, (_, index) => {
      const turn = (index * 2 * Math.PI) / answer.fits;
      const r = (pitch * per) / 2;
      return { x: r * Math.sin(turn), y: -r * Math.cos(turn), index };
    }),
  );
  const r = $derived((question.roller_mm * per) / 2);
</script>

<svg
  viewBox="-120 -120 240 240"
  class="block max-h-80 w-full"
  role="group"
  aria-label={`${counted} of ${answer.fits} rollers counted`}
>
  <defs>
    <pattern id="empty" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path d="M0 0v4" stroke="currentColor" stroke-width="1" />
    </pattern>
  </defs>
  <circle r={(pitch * per) / 2 + r + 4} fill="none" stroke="currentColor" stroke-width="3" />
  <circle
    r={Math.max((pitch * per) / 2 - r, 1)}
    class="fill-base-200"
    stroke="currentColor"
    stroke-width="2"
  />
  {#each rollers as one (one.index)}
    {@const here = one.index < counted}
    <!-- one press counts up to this roller; the last one again takes it out -->
    <!-- svelte-ignore a11y_click_events_have_key_events -->
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <circle
      cx={one.x}
      cy={one.y}
      {r}
      class={["cursor-pointer", here ? "fill-base-content" : "text-out"]}
      fill={here ? undefined : "url(#empty)"}
      stroke="currentColor"
      stroke-width="1"
      onclick={() => oncount(one.index + 1 === counted ? one.index : one.index + 1)}
    />
  {/each}
  <text y="6" text-anchor="middle" class="figure fill-current text-3xl">{counted}</text>
  <text y="24" text-anchor="middle" class="fill-current text-xs">of {answer.fits}</text>
</svg>
<div class="mt-1 flex items-center justify-center gap-2">
  <button type="button" class="btn btn-plain" disabled={counted === 0} onclick={() => oncount(counted - 1)}
    >One out</button
  >
  <button
    type="button"
    class="btn btn-neutral"
    disabled={counted >= answer.fits}
    onclick={() => oncount(counted + 1)}>Count one in</button
  >
</div>
