import { describe, expect, it } from "vitest";

import { disagreement, inMillimetres, scales } from "./trace";

const at = (x: number, y: number) => ({ x, y });

describe("points traced on a photo", () => {
  const known = [
    { from: at(0, 0), to: at(200, 0), mm: 100 },
    { from: at(0, 0), to: at(0, 300), mm: 150 },
  ];

  it("come out in millimetres about their middle, y up", () => {
    expect(scales(known)).toEqual([0.5, 0.5]);
    expect(inMillimetres([at(100, 100), at(300, 100), at(300, 200), at(100, 200)], known)).toEqual([
      { x: "-50.00 mm", y: "25.00 mm" },
      { x: "50.00 mm", y: "25.00 mm" },
      { x: "50.00 mm", y: "-25.00 mm" },
      { x: "-50.00 mm", y: "-25.00 mm" },
    ]);
  });

  it("holes are told from the middle of the edge", () => {
    expect(inMillimetres([at(300, 150)], known, [at(100, 100), at(300, 200)])).toEqual([
      { x: "50.00 mm", y: "0.00 mm" },
    ]);
  });

  it("two distances that disagree say that the photo was not taken square on", () => {
    expect(disagreement(known)).toBeCloseTo(0);
    expect(disagreement([...known.slice(0, 1), { from: at(0, 0), to: at(0, 280), mm: 150 }])).toBeCloseTo(
      0.0714,
      3,
    );
    expect(disagreement(known.slice(0, 1))).toBe(0);
  });
});
