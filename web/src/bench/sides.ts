import type { Bench } from "../api/client";

/** Both sides of the carrier in words, with the vehicle's left and right once they are known. */
export function sideNames(start: Pick<Bench["start"], "ring_on">): { ring: string; far: string } {
  if (start.ring_on === "") return { ring: "Ring gear side", far: "Far side" };
  const other = start.ring_on === "left" ? "right" : "left";
  return { ring: `Ring gear side, ${start.ring_on}`, far: `Far side, ${other}` };
}
