/** Where things stand on the dial drawing. Radii and places are in the drawing's own units. */

export const FACE = { inner: 46, outer: 138, toe: 148, heel: 186, label: 212 };

export interface Scale {
  /** Radius for a backlash in mm; beyond the face it stops at its rim. */
  radius(mm: number): number;
  low: number;
  high: number;
}

/** The window takes the middle third of the face; without one the readings set the scale. */
export function scale(min: number | null, max: number | null, values: number[]): Scale {
  const low = min ?? Math.min(...values, 0.1);
  const high = max ?? Math.max(...values, low + 0.1);
  const width = Math.max(high - low, 0.02);
  const from = low - width;
  const to = high + width;
  return {
    low,
    high,
    radius(mm) {
      const share = (Math.min(Math.max(mm, from), to) - from) / (to - from);
      return FACE.inner + share * (FACE.outer - FACE.inner);
    },
  };
}

/** A point at a clock position: 0 degrees at the top, clockwise. */
export function at(angleDeg: number, radius: number): { x: number; y: number } {
  const turn = (angleDeg * Math.PI) / 180;
  return { x: radius * Math.sin(turn), y: -radius * Math.cos(turn) };
}

/** A closed path through a value given for each angle. */
export function loop(value: (angleDeg: number) => number): string {
  const points = Array.from({ length: 72 }, (_, step) => {
    const { x, y } = at(step * 5, value(step * 5));
    return `${x.toFixed(2)} ${y.toFixed(2)}`;
  });
  return `M${points.join("L")}Z`;
}

/** The ring's teeth seen from their side, toe inside, heel outside: as many curved lines as it has teeth. */
export function teeth(count: number): string {
  return Array.from({ length: count }, (_, tooth) => {
    const angle = (360 * tooth) / count;
    const toe = at(angle, FACE.toe);
    const bend = at(angle + 3.5, (FACE.toe + FACE.heel) / 2);
    const heel = at(angle + 11, FACE.heel);
    const [from, by, to] = [toe, bend, heel].map((point) => `${point.x.toFixed(1)} ${point.y.toFixed(1)}`);
    return `M${from}Q${by} ${to}`;
  }).join("");
}
