import { describe, expect, it } from "vitest";

import { BOX, line, plot, roundStep } from "./plot";

describe("a chart", () => {
  it("marks its axes at round values", () => {
    expect(roundStep(140)).toBe(50);
    expect(roundStep(4500)).toBe(1000);
    expect(plot(140, 4500).xTicks).toEqual([0, 50, 100]);
    expect(plot(140, 4500).yTicks).toEqual([0, 1000, 2000, 3000, 4000]);
  });
  it("has nothing at the lower left and what is most at the upper right", () => {
    const chart = plot(100, 10);
    expect([chart.x(0), chart.y(0)]).toEqual([BOX.left, BOX.height - BOX.bottom]);
    expect([chart.x(100), chart.y(10)]).toEqual([BOX.width - BOX.right, BOX.top]);
  });
  it("begins where it is told to", () => {
    const late = plot(100, 10, 60);
    expect([late.x(60), late.x(10), late.xTicks]).toEqual([BOX.left, BOX.left, [60, 70, 80, 90, 100]]);
  });
  it("goes below nothing where it is told to", () => {
    const swing = plot(360, 2, 0, BOX, -2);
    expect(swing.y(-2)).toBe(BOX.height - BOX.bottom);
    expect(swing.y(2)).toBe(BOX.top);
    expect(swing.y(0)).toBeCloseTo((BOX.top + BOX.height - BOX.bottom) / 2, 9);
    expect(swing.yTicks).toEqual([-2, -1, 0, 1, 2]);
  });
  it("draws what lies above its top at the top", () => {
    const chart = plot(100, 10);
    expect(chart.y(1000)).toBeGreaterThan(0);
  });
  it("draws no line through a single point", () => {
    const chart = plot(10, 10);
    expect(line([{ x: 1, y: 1 }], chart)).toBe("");
    expect(
      line(
        [
          { x: 0, y: 0 },
          { x: 10, y: 10 },
        ],
        chart,
      ),
    ).toMatch(/^M.*L/);
  });
});
