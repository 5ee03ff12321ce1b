/** What is read under the vehicle, in the order a person walks it: from the gearbox output to the pinion, slopes and lengths first, then offsets. */

import type { Schemas } from "../api/client";
import type { Inputs } from "./desk.svelte";
import type { View } from "./drawing";

type Readings = Inputs["readings"];
type Gauge = Schemas["GaugeReading"];

/** A figure of one member: 0 is the output, then the propshafts, then the pinion. */
export interface Ask {
  key: string;
  member: number;
  kind: "slope" | "length" | "bearing" | "offset" | "over";
  /** member and quantity, as it is asked for */
  label: string;
  view: View;
}

/** The members by name. */
export function memberNames(readings: Readings): string[] {
  const shafts = readings.shafts;
  return [
    "Output",
    ...shafts.map((_, index) => (shafts.length > 1 ? `Propshaft ${index + 1}` : "Propshaft")),
    "Pinion",
  ];
}

/** Everything that can be typed for the members; with measured joint centres only the ends have a slope. */
export function asksFor(readings: Readings): Ask[] {
  const names = memberNames(readings);
  const last = names.length - 1;
  const byPoints = Boolean(readings.points_mm);
  const asked = (member: number) => member === 0 || member === last || !byPoints;
  const found: Ask[] = [];
  const add = (member: number, kind: Ask["kind"], what: string, view: View) =>
    found.push({ key: `${member}-${kind}`, member, kind, label: `${names[member] ?? ""} ${what}`, view });
  names.forEach((_, member) => {
    if (!asked(member)) return;
    add(member, "slope", "slope", "side");
    if (member === 0 || member === last) return;
    add(member, "length", "length, joint to joint", "side");
    if (member < last - 1) add(member, "bearing", "centre bearing, behind its front joint", "side");
  });
  names.forEach((_, member) => {
    if (!asked(member)) return;
    add(member, "offset", "offset to the left", "top");
    add(member, "over", "offset, over a length of", "top");
  });
  return found;
}

function memberOf(readings: Readings, member: number): Schemas["ReadMember"] | null {
  if (member === 0) return readings.output;
  return (member > readings.shafts.length ? readings.pinion : readings.shafts[member - 1]?.member) ?? null;
}

/** The gauge reading of a slope. */
export function gaugeOf(readings: Readings, ask: Ask): Gauge | null {
  return ask.kind === "slope" ? (memberOf(readings, ask.member)?.side ?? null) : null;
}

/** What stands for an ask now, [deg or mm]; null where nothing was read. */
export function valueOf(readings: Readings, ask: Ask): number | null {
  const shaft = readings.shafts[ask.member - 1];
  const member = memberOf(readings, ask.member);
  const found = {
    slope: member?.side.value_deg,
    offset: member?.left_mm,
    over: member?.over_mm,
    length: shaft?.length_mm,
    bearing: shaft?.bearing_from_front_mm,
  }[ask.kind];
  return found ?? null;
}

/** Whether nothing is an answer too. */
export const optional = (ask: Ask) => ask.kind !== "slope" && ask.kind !== "length";

/** Put a figure where it belongs; an offset has a length over which it was read, and takes the place of a plan angle. */
export function put(readings: Readings, ask: Ask, value: number | null): void {
  const shaft = readings.shafts[ask.member - 1];
  const member = memberOf(readings, ask.member);
  if (ask.kind === "length" && shaft && value !== null) shaft.length_mm = value;
  if (ask.kind === "bearing" && shaft) shaft.bearing_from_front_mm = value;
  if (member === null) return;
  if (ask.kind === "slope" && value !== null) member.side.value_deg = value;
  if (ask.kind === "offset") {
    member.plan_deg = null;
    member.left_mm = value;
    member.over_mm = value === null ? null : (member.over_mm ?? shaft?.length_mm ?? 1000);
  }
  if (ask.kind === "over") {
    member.plan_deg = null;
    member.over_mm = value;
    member.left_mm = value === null ? null : (member.left_mm ?? 0);
  }
}

/** The field of the server's sentence for an ask. */
export function fieldOf(readings: Readings, ask: Ask): string {
  const last = readings.shafts.length + 1;
  const member = ask.member === 0 ? "output" : ask.member === last ? "pinion" : `shafts[${ask.member - 1}]`;
  const within = ask.member === 0 || ask.member === last ? member : `${member}.member`;
  if (ask.kind === "length") return `readings.${member}.length_mm`;
  if (ask.kind === "bearing") return `readings.${member}.bearing_from_front_mm`;
  return `readings.${within}.${{ slope: "side", offset: "left_mm", over: "over_mm" }[ask.kind]}`;
}
