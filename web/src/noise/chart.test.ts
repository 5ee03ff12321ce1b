import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { BOX, cells, chartPlot, labels, topHz } from "./chart";

const CHART: Schemas["OrderChart"] = {
  speed_edges_kmh: [60, 80, 100],
  frequency_edges_hz: [0, 25, 50, 75, 100],
  cells: [
    [0.01, 0.5, 0.01, 0.01],
    [0.01, null, 1, 0.01],
  ],
  reference_kmh: 80,
  frequency_hz: [0, 1],
  amplitude: [0, 0],
  peaks: [[40, 1]],
  resolution_hz: 0.5,
  seconds: 60,
};
const LINE = { name: "prop_2x", words: "", hz_per_kmh: 0.8, at_reference_hz: 64 };

describe("the order chart", () => {
  it("reaches over twice the shaft and over the peaks, never past what was recorded", () => {
    expect(topHz(CHART, [LINE])).toBeCloseTo(92, 6);
    expect(topHz(CHART, [])).toBeCloseTo(57.5, 6);
    expect(topHz({ ...CHART, peaks: [[90, 1]] }, [])).toBe(100);
  });
  it("paints what stands out of the floor, where it was", () => {
    const scale = chartPlot(CHART, 100, 1);
    const found = cells(CHART, scale, 100, 1);
    expect(found.length).toBe(2);
    expect(found[1]?.strength).toBeCloseTo(1, 9);
    expect(found[0]?.x).toBeCloseTo(BOX.left, 6);
    expect(found[0]?.y).toBeCloseTo(scale.y(50), 6);
    expect(found[1]?.x).toBeCloseTo(scale.x(80), 6);
  });
  it("follows the person's speed unit", () => {
    const miles = chartPlot(CHART, 100, 1 / 1.609344);
    expect(miles.x(60 / 1.609344)).toBeCloseTo(BOX.left, 6);
    expect(cells(CHART, miles, 100, 1 / 1.609344).length).toBe(2);
  });
  it("moves labels apart and keeps their order", () => {
    const found = labels(
      [
        { name: "a", y: 100 },
        { name: "b", y: 104 },
        { name: "c", y: 30 },
      ],
      17,
    );
    expect(found.map((one) => one.name)).toEqual(["b", "a", "c"]);
    expect((found[0]?.y ?? 0) - (found[1]?.y ?? 0)).toBe(17);
    expect(found[2]?.y).toBe(30);
  });
});
