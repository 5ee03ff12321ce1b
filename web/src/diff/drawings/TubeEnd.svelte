<script lang="ts">
  import type { Answered, Asked } from "../answers";
  import { angleOf, sameAngle, type Slot, type Values } from "../values";
  import Clock from "./Clock.svelte";

  interface Props {
    question: Asked<"tube.register"> | null;
    answer: Answered<"tube.register"> | null;
    values: Values;
    slots: Slot[];
    picked: string;
    onpick: (key: string) => void;
  }
  let { question, answer, values, slots, picked, onpick }: Props = $props();
  const placeAt = (angle: number) => answer?.places.find((one) => sameAngle(one.angle_deg, angle));
  const place = $derived.by(() => {
    const round = slots.filter((slot) => slot.field.angles > 0);
    const at = round.findIndex((slot) => slot.key === picked);
    const slot = round[Math.max(0, at)];
    return (slot && placeAt(angleOf(slot.field, Math.max(0, at)))) ?? answer?.places[0];
  });
  const register = $derived(place ? place.stub_mm - (question?.guide_mm ?? 0) : 0);
  const seat = $derived(question?.seat_mm ?? null);
  const top = $derived(Math.max(seat ?? 0, answer?.high_mm ?? 0, place?.stub_mm ?? 0) + 2);
  const y = (mm: number) => 200 - (mm / top) * 180;
</script>

<div class="grid gap-3 sm:grid-cols-2">
  <Clock
    label="Register round the clock, seen from the wheel"
    readings={question?.register ?? []}
    bad={(angle) => placeAt(angle)?.verdict === "out"}
    {values}
    {slots}
    {picked}
    {onpick}
  />
  {#if answer && place}
    <svg
      viewBox="0 0 300 250"
      class="block max-h-80 w-full"
      role="img"
      aria-label={`Section at ${place.angle_deg}°, true to scale`}
    >
      <text x="4" y="14" class="fill-current text-sm">Section at {place.angle_deg}°</text>
      <rect x="10" y={y(0)} width="280" height="22" class="fill-base-300" stroke="currentColor" />
      <text x="284" y={y(0) + 16} text-anchor="end" class="fill-current text-xs">flange face</text>
      <rect
        x="150"
        y={y(answer.high_mm)}
        width="86"
        height={Math.max(y(answer.low_mm) - y(answer.high_mm), 2)}
        class="fill-in"
        opacity=".28"
      />
      <!-- the tube's wall: the register as it is, and the stub that the guide leaves -->
      <rect
        x="70"
        y={y(register)}
        width="60"
        height={y(0) - y(register)}
        class="fill-base-200"
        stroke="currentColor"
        stroke-width="2"
      />
      {#if question?.guide_mm}
        <rect
          x="70"
          y={y(place.stub_mm)}
          width="60"
          height={Math.max(y(register) - y(place.stub_mm), 1)}
          fill="none"
          stroke="currentColor"
          stroke-dasharray="4 3"
        />
        <text
          x="66"
          y={(y(register) + y(place.stub_mm)) / 2 + 4}
          text-anchor="end"
          class="fill-current text-xs">guide</text
        >
      {/if}
      {#if place.trim_mm > 0}
        <rect
          x="70"
          y={y(place.stub_mm)}
          width="60"
          height={y(answer.high_mm) - y(place.stub_mm)}
          class="fill-out"
          opacity=".7"
        />
        <text x="66" y={y(place.stub_mm) - 4} text-anchor="end" class="fill-out text-sm"
          >trim {place.trim_mm.toFixed(2)}</text
        >
      {/if}
      {#if answer.cut_at_mm !== null}
        <path
          d={`M40 ${y(answer.cut_at_mm)}H250`}
          stroke="currentColor"
          stroke-width="2"
          stroke-dasharray="10 4 2 4"
        />
        <text x="252" y={y(answer.cut_at_mm) + 4} class="fill-current text-xs">cut line</text>
      {/if}
      {#if seat !== null}
        <path d={`M60 ${y(seat)}H290`} stroke="currentColor" stroke-width="3" />
        <text x="284" y={y(seat) - 5} text-anchor="end" class="fill-current text-xs">retainer's seat</text>
        {#if question?.spigot_mm != null}
          <rect
            x="136"
            y={y(seat)}
            width="10"
            height={Math.max(y(seat - question.spigot_mm) - y(seat), 1)}
            fill="currentColor"
          />
          <text x="152" y={y(seat - question.spigot_mm) - 2} class="fill-current text-xs">seal</text>
        {/if}
      {/if}
      <text x="4" y="246" class="fill-current text-xs"
        >stub {place.stub_mm.toFixed(2)}{place.gap_mm === null
          ? ""
          : `, gap ${place.gap_mm.toFixed(2)}`}{place.engaged_mm === null
          ? ""
          : `, seal covers ${place.engaged_mm.toFixed(2)}`}</text
      >
    </svg>
  {/if}
</div>
