<script lang="ts">
  import type { Answered, Asked } from "../answers";
  import { typedAt, type Slot, type Values } from "../values";
  import Clock from "./Clock.svelte";

  interface Props {
    question: Asked<"runout.assess"> | null;
    answer: Answered<"runout.assess"> | null;
    values: Values;
    slots: Slot[];
    picked: string;
    onpick: (key: string) => void;
  }
  let { question, answer, values, slots, picked, onpick }: Props = $props();
  const round = $derived(slots.filter((slot) => slot.field.angles > 0));
  const places = $derived(
    round.map((slot, index) => {
      const angle = (360 / slot.field.angles) * index;
      const read = question?.readings.find((one) => Math.abs(one.angle_deg - angle) < 0.01);
      const local = answer?.local_at_deg ?? null;
      const bad = local !== null && Math.abs(((local - angle + 540) % 360) - 180) < 1;
      return { angle, value: read?.value_mm ?? null, word: typedAt(values, slot), bad };
    }),
  );
</script>

<Clock label="Dial round the part" {places} slots={round} {picked} {onpick} />
