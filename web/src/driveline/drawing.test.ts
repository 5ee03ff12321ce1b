import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { along, jointState, NARROW, scaleFor, WIDE, worst } from "./drawing";

const POINTS = [
  [0, 0, 0],
  [1300, 40, -160],
];
const limit = (name: string, place: number | null, verdict: Schemas["HeldLimit"]["verdict"]) =>
  ({ name, place, verdict }) as Schemas["HeldLimit"];

describe("the scale of the drawing", () => {
  for (const width of [WIDE, NARROW])
    for (const view of ["side", "top"] as const)
      it(`is one for both directions, ${view} view, ${width} wide`, () => {
        const scale = scaleFor(POINTS, view, width);
        const [a, b] = POINTS as [number[], number[]];
        expect(scale.x(b) - scale.x(a)).toBeCloseTo(1300 * scale.per, 9);
        const rise = view === "side" ? 160 : 40;
        // seen from the left side down is down; seen from above the left side is down
        expect(scale.y(b) - scale.y(a)).toBeCloseTo(rise * scale.per, 9);
        for (const one of POINTS) {
          expect(scale.x(one)).toBeGreaterThan(0);
          expect(scale.x(one)).toBeLessThan(width);
          expect(scale.y(one)).toBeGreaterThan(0);
          expect(scale.y(one)).toBeLessThan(scale.height);
        }
      });
  for (const view of ["side", "top"] as const)
    it(`leads back to the place, ${view} view`, () => {
      const scale = scaleFor(POINTS, view);
      for (const one of POINTS) {
        const back = scale.back(one, scale.x(one), scale.y(one));
        back.forEach((value, index) => expect(value).toBeCloseTo(one[index] ?? NaN, 9));
      }
      const moved = scale.back(POINTS[1] ?? [], scale.x(POINTS[1] ?? []), scale.y(POINTS[1] ?? []) - 10);
      // what the view does not show stays
      expect(moved[view === "side" ? 1 : 2]).toBe(view === "side" ? 40 : -160);
      expect(moved[view === "side" ? 2 : 1]).not.toBe(view === "side" ? -160 : 40);
    });
  it("has room for a shaft that runs level", () => {
    expect(
      scaleFor(
        [
          [0, 0, 0],
          [900, 0, 0],
        ],
        "side",
      ).height,
    ).toBeGreaterThanOrEqual(150);
  });
});

describe("what is marked", () => {
  const limits = [
    limit("joint_angle", 1, "in"),
    limit("running_angle", 1, "edge"),
    limit("joint_angle", 2, "out"),
    limit("torsional", null, "out"),
    limit("inertia_drive", 1, "out"),
  ];
  it("a joint by its own limits alone", () => {
    expect([jointState(limits, 1), jointState(limits, 2), jointState(limits, 3)]).toEqual([
      "edge",
      "out",
      "in",
    ]);
  });
  it("the whole by its worst", () => {
    expect(worst(limits)).toBe("out");
    expect(worst(limits.slice(0, 2))).toBe("edge");
    expect(worst([])).toBe("in");
  });
  it("a stub runs along its axis", () => {
    expect(along([1, 2, 3], [1, 0, -0.5], -10)).toEqual([-9, 2, 8]);
  });
});
