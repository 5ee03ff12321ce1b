import { describe, expect, it } from "vitest";

import { drawn, FlankFrame, outlineOf, reported, sensible } from "./flank";

const frame = new FlankFrame({ face_mm: 32, toe_depth_mm: 7, heel_depth_mm: 9 });
const patch = { u: 0.45, v: 0.5, long: 0.25, short: 0.2, lean: 20 };

describe("a flank on the screen", () => {
  it("has the toe at the left, the tip on top, and the set's proportions", () => {
    const [toeRoot, heelTip] = [frame.at(0, 0), frame.at(1, 1)];
    expect(toeRoot.x).toBeLessThan(heelTip.x);
    expect(toeRoot.y).toBeGreaterThan(heelTip.y);
    expect((frame.at(1, 0).y - frame.at(1, 1).y) / (heelTip.x - toeRoot.x)).toBeCloseTo(9 / 32);
  });

  it("finds the place under a pointer again", () => {
    const found = frame.under(frame.at(0.3, 0.8));
    expect(found.u).toBeCloseTo(0.3);
    expect(found.v).toBeCloseTo(0.8);
  });

  it("outlines a pattern of the model where it is half marked, closed at an edge", () => {
    const mask = Array.from({ length: 25 }, () =>
      Array.from({ length: 41 }, (_, column) => (column < 21 ? 1 : 0)),
    );
    const path = frame.model({
      u: 0.25,
      v: 0.5,
      length: 0.5,
      height: 1,
      tilt_deg: 0,
      shift_u: 0,
      shift_v: 0,
      mask,
    });
    const xs = [...path.matchAll(/[ML]([\d.]+) /g)].map((found) => Number(found[1]));
    expect(Math.min(...xs)).toBeCloseTo(frame.at(0, 0).x, 0);
    expect(Math.max(...xs)).toBeCloseTo(frame.at(20.5 / 40, 0).x, 0);
    expect(path.endsWith("Z")).toBe(true);
  });
});

describe("a patch", () => {
  it("that lies on the flank is reported as it was drawn", () => {
    const found = reported(patch);
    expect(found.u).toBeCloseTo(0.45, 2);
    expect(found.v).toBeCloseTo(0.5, 2);
    expect(found.runs_off).toEqual([]);
    expect(Math.abs(found.tilt_deg - 20)).toBeLessThan(3);
    const again = drawn(found);
    expect(again.long).toBeCloseTo(patch.long, 1);
    expect(again.short).toBeCloseTo(patch.short, 1);
  });

  it("that hangs over an edge runs off there, and its middle is that of the rest", () => {
    const found = reported({ ...patch, v: 0.95, lean: 0 });
    expect(found.runs_off).toEqual(["tip"]);
    expect(found.v).toBeLessThan(0.95);
    expect(reported({ ...patch, u: 0.02, v: 0.02, lean: 0 }).runs_off).toEqual(["toe", "root"]);
  });

  it("stays on the flank and keeps a size that paint can have", () => {
    expect(sensible({ u: -1, v: 2, long: 0, short: 9, lean: 200 })).toEqual({
      u: 0,
      v: 1,
      long: 0.05,
      short: 0.75,
      lean: 80,
    });
  });

  it("is drawn round its middle", () => {
    const points = outlineOf(patch);
    const mean = (pick: "u" | "v") => points.reduce((sum, one) => sum + one[pick], 0) / points.length;
    expect(mean("u")).toBeCloseTo(0.45);
    expect(mean("v")).toBeCloseTo(0.5);
  });
});
