<script lang="ts">
  import type { Answered, Asked } from "../answers";

  interface Props {
    home?: { question: Asked<"halfshaft.home">; answer: Answered<"halfshaft.home"> };
    engagement?: { question: Asked<"shaft.engagement">; answer: Answered<"shaft.engagement"> };
  }
  let { home, engagement }: Props = $props();
  const before = $derived(
    home ? (home.question.gap_before_mm ?? home.question.gap_other_side_mm ?? null) : null,
  );
  const per = $derived(home ? Math.min(14, 130 / Math.max(home.question.gap_now_mm, before ?? 0, 4)) : 0);
  const size = $derived(
    engagement
      ? 200 /
          Math.max(
            engagement.question.engaged_home_mm,
            engagement.question.gear_spline_mm ?? 0,
            engagement.answer.wanted_mm,
            1,
          )
      : 0,
  );
</script>

{#if home}
  <svg
    viewBox="0 0 420 190"
    class="block max-h-60 w-full"
    role="img"
    aria-label="Half shaft at the housing, the gap true to scale"
  >
    <path d="M20 20h90v150H20z" class="fill-base-300" stroke="currentColor" stroke-width="2" />
    <text x="65" y="100" text-anchor="middle" class="fill-current text-sm">housing</text>
    <path d="M20 84h90v22H20z" class="fill-base-100" stroke="currentColor" stroke-dasharray="4 3" />
    <g transform={`translate(${home.question.gap_now_mm * per} 0)`}>
      <path d="M30 88h80v14H30z" class="fill-base-200" stroke="currentColor" />
      <path
        d="M110 50h70q40 0 60 26v38q-20 26-60 26h-70z"
        class="fill-base-200"
        stroke="currentColor"
        stroke-width="2"
      />
      <circle cx="42" cy="95" r="9" fill="none" stroke="currentColor" stroke-width="3" />
    </g>
    {#if before !== null}
      <path
        d={`M${110 + before * per} 32v126`}
        stroke="currentColor"
        stroke-dasharray="6 4"
        stroke-width="2"
      />
      <text x={114 + before * per} y="30" class="fill-current text-xs"
        >{home.answer.against === "before" ? "before" : "other side"} {before.toFixed(1)}</text
      >
    {/if}
    <path d={`M110 176h${home.question.gap_now_mm * per}`} stroke="currentColor" stroke-width="3" />
    <text x={114 + home.question.gap_now_mm * per} y="182" class="fill-current text-sm"
      >now {home.question.gap_now_mm.toFixed(1)}</text
    >
  </svg>
{:else if engagement}
  {@const q = engagement.question}
  {@const a = engagement.answer}
  <svg
    viewBox="0 0 420 200"
    class="block max-h-60 w-full"
    role="img"
    aria-label="Spline in the side gear with the shaft standing farthest out, true to scale"
  >
    <rect
      x="150"
      y="30"
      width={(q.gear_spline_mm ?? q.engaged_home_mm) * size}
      height="34"
      class="fill-base-300"
      stroke="currentColor"
      stroke-width="2"
    />
    <rect
      x="150"
      y="126"
      width={(q.gear_spline_mm ?? q.engaged_home_mm) * size}
      height="34"
      class="fill-base-300"
      stroke="currentColor"
      stroke-width="2"
    />
    <text x="154" y="52" class="fill-current text-xs">side gear</text>
    <rect
      x="10"
      y="68"
      width={140 + Math.max(a.engaged_least_mm, 0) * size}
      height="54"
      class="fill-base-200"
      stroke="currentColor"
      stroke-width="2"
    />
    <rect
      x={150 + Math.max(q.engaged_home_mm - q.outward_mm, 0) * size}
      y="68"
      width={q.outward_mm * size}
      height="54"
      fill="none"
      stroke="currentColor"
      stroke-dasharray="4 3"
    />
    <path d={`M${150 + a.wanted_mm * size} 20v156`} class="text-in" stroke="currentColor" stroke-width="3" />
    <text x={150 + a.wanted_mm * size} y="192" text-anchor="middle" class="fill-current text-xs"
      >wanted {a.wanted_mm.toFixed(1)}</text
    >
    <text x="16" y="100" class="fill-current text-sm">shaft</text>
  </svg>
{/if}
