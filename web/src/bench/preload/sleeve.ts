/** The crush sleeve's plot: turn of the nut across [deg], rotating torque up [Nm]. */

import { roundStep } from "../../lib/plot";

export interface Step {
  nut_turn_deg: number;
  rotating_torque_nm: number;
}

export const PLOT = { width: 620, height: 300, left: 52, right: 16, top: 12, bottom: 40 };

export interface SleevePlot {
  x(deg: number): number;
  y(nm: number): number;
  turns: number[];
  torques: number[];
}

/** Scales with all steps, the window, and the next step in sight; the first quarter of a long slack run is cut off. */
export function sleevePlot(steps: Step[], greatest_nm: number, goesTo_deg: number): SleevePlot {
  const turned = steps.map((one) => one.nut_turn_deg);
  const to = Math.max(...turned, goesTo_deg, 10) * 1.02;
  const from = Math.min(turned.at(-8) ?? turned[0] ?? 0, to - 10);
  const most = Math.max(greatest_nm * 1.4, ...steps.map((one) => one.rotating_torque_nm * 1.1));
  const { width, height, left, right, top, bottom } = PLOT;
  const ticks = (low: number, high: number) => {
    const step = roundStep(high - low);
    const first = Math.ceil(low / step);
    return Array.from({ length: Math.floor(high / step) - first + 1 }, (_, index) => (first + index) * step);
  };
  return {
    x: (deg) => left + (Math.max(deg - from, 0) / (to - from)) * (width - left - right),
    y: (nm) => height - bottom - (nm / most) * (height - top - bottom),
    turns: ticks(from, to),
    torques: ticks(0, most),
  };
}
