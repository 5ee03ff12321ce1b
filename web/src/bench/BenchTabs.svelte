<script lang="ts" module>
  export const TABS = ["backlash", "pattern", "preload", "depth", "map"] as const;
  export type Tab = (typeof TABS)[number];
</script>

<script lang="ts">
  import type { Trial, Verdict } from "../api/client";
  import Tabs from "../lib/Tabs.svelte";

  interface Props {
    tab: Tab;
    trial: Trial;
    onpick: (tab: Tab) => void;
  }
  let { tab, trial, onpick }: Props = $props();
  const WORDS: Record<Tab, string> = {
    backlash: "Backlash",
    pattern: "Pattern",
    preload: "Preload",
    depth: "Depth",
    map: "Map",
  };
  const marks = $derived<Record<Tab, Verdict | null>>({
    backlash: trial.assessment?.verdict ?? "unknown",
    pattern: trial.pattern_verdict,
    preload: trial.pinion_torque?.verdict ?? "unknown",
    depth: null,
    map: null,
  });
  const tabs = $derived(TABS.map((key) => ({ key, word: WORDS[key], mark: marks[key] })));
</script>

<Tabs label="Readings of this trial" panel="bench-panel" {tabs} {tab} {onpick} />
