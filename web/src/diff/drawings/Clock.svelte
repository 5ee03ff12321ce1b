<script lang="ts">
  import { angleOf, sameAngle, typedAt, type Slot, type Values } from "../values";

  interface Props {
    label: string;
    /** as the server read them; those not read yet are left out */
    readings: { angle_deg: number; value_mm: number }[];
    /** which places stand out */
    bad: (angle: number) => boolean;
    values: Values;
    /** what the strip asks for; pressing a place picks it */
    slots: Slot[];
    picked: string;
    onpick: (key: string) => void;
  }
  let { label, readings, bad, values, slots, picked, onpick }: Props = $props();
  const round = $derived(slots.filter((slot) => slot.field.angles > 0));
  const places = $derived(
    round.map((slot, index) => {
      const angle = angleOf(slot.field, index);
      const read = readings.find((one) => sameAngle(one.angle_deg, angle));
      return { angle, value: read?.value_mm ?? null, word: typedAt(values, slot), bad: bad(angle) };
    }),
  );
  const read = $derived(places.flatMap((one) => (one.value === null ? [] : [one.value])));
  const low = $derived(Math.min(...read));
  const high = $derived(Math.max(...read));
  const spread = $derived(Math.max(high - low, 0.02));
  const R = 84;
  /** differences enlarged to a third of the radius */
  const radius = (value: number) => R - 18 + (36 * (value - (low + high) / 2)) / spread;
  const at = (angle: number, r: number): [number, number] => {
    const turn = (angle * Math.PI) / 180;
    return [r * Math.sin(turn), -r * Math.cos(turn)];
  };
  /** the figure alone: a unit behind it finds no room in the circle */
  const figure = (typed: string) => typed.replace(/[^\d.,+-]+$/, "");
  const outline = $derived(
    places
      .filter((one) => one.value !== null)
      .map((one) => at(one.angle, radius(one.value ?? 0)).join(","))
      .join(" "),
  );
</script>

<svg viewBox="-150 -146 300 292" class="block max-h-80 w-full" role="group" aria-label={label}>
  <circle r={R} fill="none" stroke="currentColor" stroke-width="2" />
  <circle r={R - 18} fill="none" stroke="currentColor" stroke-dasharray="3 4" opacity=".6" />
  {#if read.length > 2}<polygon
      points={outline}
      class="fill-base-300"
      fill-opacity=".7"
      stroke="currentColor"
      stroke-width="2.5"
    />{/if}
  {#each places as place, index (place.angle)}
    {@const slot = round[index]}
    {@const [x, y] = at(place.angle, R + 34)}
    <g
      role="button"
      tabindex="0"
      class={["cursor-pointer outline-offset-2", place.bad && "text-out"]}
      aria-label={`${place.angle}°: ${place.word || "not read"}`}
      aria-pressed={slot?.key === picked}
      onclick={() => slot && onpick(slot.key)}
      onkeydown={(event) => {
        if ((event.key === "Enter" || event.key === " ") && slot) {
          event.preventDefault();
          onpick(slot.key);
        }
      }}
    >
      <path
        d={`M${at(place.angle, R).join(" ")}L${at(place.angle, R + 8).join(" ")}`}
        stroke="currentColor"
        stroke-width="2"
      />
      <circle
        cx={x}
        cy={y}
        r="24"
        class={slot?.key === picked ? "fill-next" : "fill-base-100"}
        stroke="currentColor"
        stroke-width={place.bad ? 4 : 1.5}
      />
      <text
        {x}
        y={y + 5}
        text-anchor="middle"
        class={["text-sm", slot?.key === picked ? "fill-next-content" : "fill-current"]}
        >{figure(place.word) || `${place.angle}°`}</text
      >
    </g>
  {/each}
  {#if read.length > 2}<text x="-148" y="-132" class="fill-current text-xs">differences enlarged</text>{/if}
</svg>
