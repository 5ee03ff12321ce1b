import { describe, expect, it } from "vitest";

import { BOX } from "../../lib/plot";
import { sleevePlot } from "./sleeve";

const steps = [
  { nut_turn_deg: 0, rotating_torque_nm: 0.2 },
  { nut_turn_deg: 20, rotating_torque_nm: 0.9 },
  { nut_turn_deg: 30, rotating_torque_nm: 1.6 },
];

describe("the sleeve's plot", () => {
  const plot = sleevePlot(steps, 2.8, 35);
  it("has the turn across and the torque up, with window and next step in sight", () => {
    expect(plot.x(30)).toBeGreaterThan(plot.x(20));
    expect(plot.y(2.8)).toBeLessThan(plot.y(1.6));
    expect(plot.x(35)).toBeLessThanOrEqual(BOX.width - BOX.right);
    expect(plot.y(2.8)).toBeGreaterThan(BOX.top);
  });
  it("is marked at round values", () => {
    expect(plot.xTicks).toEqual([0, 10, 20, 30]);
    expect(plot.yTicks).toEqual([0, 1, 2, 3]);
  });
  it("is marked at round values of the person's own unit", () => {
    expect(sleevePlot(steps, 2.8, 35, 8.85).yTicks).toEqual([0, 10, 20, 30]);
  });
  it("shows the last steps of a long run", () => {
    const long = Array.from({ length: 30 }, (_, turn) => ({
      nut_turn_deg: turn * 10,
      rotating_torque_nm: 1,
    }));
    expect(sleevePlot(long, 2.8, 300).xTicks[0]).toBeGreaterThanOrEqual(220);
  });
});
