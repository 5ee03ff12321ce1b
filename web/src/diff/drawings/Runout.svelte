<script lang="ts">
  import type { Answered, Asked } from "../answers";
  import type { Slot, Values } from "../values";
  import Clock from "./Clock.svelte";

  interface Props {
    question: Asked<"runout.assess"> | null;
    answer: Answered<"runout.assess"> | null;
    values: Values;
    slots: Slot[];
    picked: string;
    onpick: (key: string) => void;
  }
  let { question, answer, ...round }: Props = $props();
  const local = $derived(answer?.local_at_deg ?? null);
  const bad = (angle: number) => local !== null && Math.abs(((local - angle + 540) % 360) - 180) < 1;
</script>

<Clock label="Dial round the part" readings={question?.readings ?? []} {bad} {...round} />
