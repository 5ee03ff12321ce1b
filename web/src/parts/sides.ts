import type { Taken } from "./wall.svelte";

/** The sides that a part which is in no list can be given; the others have theirs in their name. */
export const SIDES: { code: Exclude<Taken["side"], "">; word: string }[] = [
  { code: "left", word: "left" },
  { code: "right", word: "right" },
  { code: "ring", word: "ring side" },
  { code: "far", word: "far side" },
  { code: "front", word: "front" },
  { code: "rear", word: "rear" },
];
