import { describe, expect, it } from "vitest";

import { MapFrame } from "./map";

const axis = Array.from({ length: 21 }, (_, index) => -0.2 + index * 0.02);
/** passes within 0.1 mm of the right place */
const chart = {
  ring_mm: axis,
  pinion_mm: axis,
  margin: axis.map((pinion) => axis.map((ring) => 1 - Math.hypot(ring, pinion) / 0.1)),
  trials: [
    [0.15, -0.1],
    [0.02, 0.01],
  ],
  ellipse: [
    [0.04, 0.01],
    [0.02, 0.03],
    [0, 0.01],
    [0.02, -0.01],
  ],
};
const frame = new MapFrame(chart);

describe("the set-up map", () => {
  it("has the ring's place across and the pinion's up", () => {
    expect(frame.x(0.1)).toBeGreaterThan(frame.x(-0.1));
    expect(frame.y(0.1)).toBeLessThan(frame.y(-0.1));
  });
  it("finds the place under a pointer again, and stays on the map", () => {
    const place = frame.under(frame.x(0.07), frame.y(-0.13));
    expect(place.ring_mm).toBeCloseTo(0.07);
    expect(place.pinion_mm).toBeCloseTo(-0.13);
    expect(frame.under(9999, -9999)).toEqual({ ring_mm: frame.half, pinion_mm: frame.half });
  });
  it("outlines where everything passes, at its true size", () => {
    const xs = [...frame.region(0).matchAll(/[ML]([\d.]+) /g)].map((found) => Number(found[1]));
    expect(Math.max(...xs)).toBeCloseTo(frame.x(0.1), -0.5);
    expect(Math.min(...xs)).toBeCloseTo(frame.x(-0.1), -0.5);
    expect(frame.region(2)).toBe("");
  });
  it("keeps the trials in their order", () => {
    const [first, second] = frame.trials;
    expect(first?.x).toBeCloseTo(frame.x(0.15));
    expect(second?.y).toBeCloseTo(frame.y(0.01));
  });
});
