import { describe, expect, it } from "vitest";

import { at, FACE, loop, scale, teeth } from "./dial";

describe("the dial's scale", () => {
  it("gives the window the middle third of the face", () => {
    const face = scale(0.1, 0.2, []);
    const third = (FACE.outer - FACE.inner) / 3;
    expect(face.radius(0.1)).toBeCloseTo(FACE.inner + third);
    expect(face.radius(0.2)).toBeCloseTo(FACE.inner + 2 * third);
  });
  it("keeps readings far off at its rims", () => {
    const face = scale(0.1, 0.2, []);
    expect(face.radius(9)).toBe(FACE.outer);
    expect(face.radius(0)).toBe(FACE.inner);
  });
  it("takes the readings where no window is known", () => {
    const face = scale(null, null, [0.05, 0.3]);
    expect([face.low, face.high]).toEqual([0.05, 0.3]);
  });
  it("is not troubled by a window of no width", () => {
    const face = scale(0.2, 0.2, []);
    expect(face.radius(0.2)).toBeGreaterThan(FACE.inner);
    expect(face.radius(0.2)).toBeLessThan(FACE.outer);
  });
});

describe("places on the dial", () => {
  it("run clockwise from the top", () => {
    const cases: [number, number, number][] = [
      [0, 0, -10],
      [90, 10, 0],
      [180, 0, 10],
      [270, -10, 0],
    ];
    for (const [angle, x, y] of cases) {
      expect(at(angle, 10).x).toBeCloseTo(x);
      expect(at(angle, 10).y).toBeCloseTo(y);
    }
  });
  it("of a runout make a closed loop that is off centre", () => {
    const path = loop((angle) => 100 + 10 * Math.cos(((angle - 90) * Math.PI) / 180));
    expect(path.startsWith("M")).toBe(true);
    expect(path.endsWith("Z")).toBe(true);
    const xs = path
      .slice(1, -1)
      .split("L")
      .map((point) => Number(point.split(" ")[0]));
    expect(Math.max(...xs)).toBeCloseTo(110);
    expect(Math.min(...xs)).toBeCloseTo(-90);
  });
  it("draw as many teeth as the ring has", () => {
    expect(teeth(41).match(/M/g)?.length).toBe(41);
  });
});
