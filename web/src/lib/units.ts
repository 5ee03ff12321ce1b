/** Speeds, masses, torques and forces in the person's system; inside it is km/h, kg, Nm, N and mm. */

import type { LengthUnit } from "./quantity";

export interface Unit {
  name: string;
  /** shown = inside * per */
  per: number;
  digits: number;
}

export type Quantity = "speed" | "mass" | "torque" | "force" | "size";

const METRIC: Record<Quantity, Unit> = {
  speed: { name: "km/h", per: 1, digits: 0 },
  mass: { name: "kg", per: 1, digits: 0 },
  torque: { name: "Nm", per: 1, digits: 0 },
  force: { name: "kN", per: 0.001, digits: 1 },
  size: { name: "mm", per: 1, digits: 0 },
};
const IMPERIAL: Record<Quantity, Unit> = {
  speed: { name: "mph", per: 1 / 1.609344, digits: 0 },
  mass: { name: "lb", per: 2.204622622, digits: 0 },
  torque: { name: "lb-ft", per: 0.737562149, digits: 0 },
  force: { name: "lbf", per: 0.224808943, digits: 0 },
  size: { name: "in", per: 1 / 25.4, digits: 1 },
};

/** Who works in thousandths of an inch works in miles and pounds as well. */
export function unitsFor(unit: LengthUnit): Record<Quantity, Unit> {
  return unit === "thou" ? IMPERIAL : METRIC;
}

/** A value with its unit: "90 km/h". */
export function told(inside: number, unit: Unit, digits = unit.digits): string {
  return `${(inside * unit.per).toFixed(digits)} ${unit.name}`;
}
