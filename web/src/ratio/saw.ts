/** The line of an engine's speed over road speed, gear by gear. */

import type { Schemas } from "../api/client";

/** Up each gear to the redline, straight down to where the next takes it up; scales are of km/h and rpm. */
export function saw(
  one: Schemas["GearingShown"],
  engine: Schemas["Engine"],
  x: (kmh: number) => number,
  y: (rpm: number) => number,
): string {
  const points = one.gears.flatMap((gear, index) => {
    const next = one.gears[index + 1];
    const up = `${x(gear.redline_kmh)} ${y(engine.redline_rpm)}`;
    const down = next ? [`${x(gear.redline_kmh)} ${y(gear.rpm_after ?? 0)}`] : [];
    return [...(index === 0 ? [`${x(gear.idle_kmh)} ${y(engine.idle_rpm)}`] : []), up, ...down];
  });
  return `M${points.join("L")}`;
}
