/** The crush sleeve's plot: turn of the nut across [deg], rotating torque up, in the person's unit. */

import { plot, type Plot } from "../../lib/plot";

export interface Step {
  nut_turn_deg: number;
  rotating_torque_nm: number;
}

/** All steps, the window, and the next step in sight; the beginning of a long slack run is cut off. */
export function sleevePlot(steps: Step[], greatest_nm: number, goesTo_deg: number, perNm = 1): Plot {
  const turned = steps.map((one) => one.nut_turn_deg);
  const to = Math.max(...turned, goesTo_deg, 10) * 1.02;
  const from = Math.min(turned.at(-8) ?? turned[0] ?? 0, to - 10);
  const most = Math.max(greatest_nm * 1.4, ...steps.map((one) => one.rotating_torque_nm * 1.1));
  return plot(to, most * perNm, from);
}
