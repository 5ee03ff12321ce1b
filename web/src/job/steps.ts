import type { Schemas } from "../api/client";
import { UNIT_NAMES, type LengthUnit } from "../lib/quantity";

export type Ask = Schemas["AskOut"];

/** Where a step of this measure is done, below the piece of work. */
export const DESKS: Record<string, { path: string; name: string }> = {
  bench_backlash: { path: "/bench", name: "Set-up bench" },
  bench_pattern: { path: "/bench#pattern", name: "Set-up bench" },
  bench_final: { path: "/bench", name: "Set-up bench" },
  ratio: { path: "/ratios", name: "Ratio desk" },
  driveline: { path: "/driveline", name: "Driveline desk" },
  driveline_joints: { path: "/driveline", name: "Driveline desk" },
  noise: { path: "/noise", name: "Noise finder" },
};

/** Whether the Set-up bench answers for it. */
export const bench = (measure: string): boolean => measure.startsWith("bench_");

/** What a value is called, with the unit that a bare figure is in. */
export function askLabel(ask: Ask, units: { length: LengthUnit; torque: "nm" | "inlb" }): string {
  const own: Partial<Record<Ask["dimension"], string>> = {
    length: UNIT_NAMES[units.length],
    torque: units.torque === "inlb" ? "in-lb" : "Nm",
    volume: "l",
    distance: "km",
  };
  const unit = ask.unit || (own[ask.dimension] ?? "");
  return unit === "" || ask.what.includes(`(${unit})`) ? ask.what : `${ask.what} (${unit})`;
}

/** The window of a sheet, with where it comes from. */
export function window(limit: Schemas["LimitOut"]): string {
  const { least, greatest, unit, source_note } = limit;
  const said =
    least === null
      ? `up to ${greatest}`
      : greatest === null
        ? `at least ${least}`
        : `${least} to ${greatest}`;
  return `Window ${said} ${unit}. ${source_note}`;
}

/** Minutes until a clock is over, as time goes by here; null for a wait, which has none. */
export function left(clock: Schemas["ClockOut"] | null, now: number): number | null {
  if (clock?.until == null) return null;
  return Math.max((new Date(clock.until).getTime() - now) / 60_000, 0);
}

/** Minutes as a person says them. */
export function toGo(minutes: number | null): string {
  const left = Math.ceil(minutes ?? 0);
  if (left < 60) return `${left} min to go`;
  const hours = Math.floor(left / 60);
  return `${hours} h ${left % 60} min to go`;
}
