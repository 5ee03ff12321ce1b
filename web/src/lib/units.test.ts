import { describe, expect, it } from "vitest";

import { told, unitsFor } from "./units";

describe("units of the ratio desk", () => {
  it("are metric for millimetres and imperial for thousandths", () => {
    expect(told(100, unitsFor("mm").speed)).toBe("100 km/h");
    expect(told(100, unitsFor("thou").speed)).toBe("62 mph");
    expect(told(1000, unitsFor("thou").mass)).toBe("2205 lb");
    expect(told(4500, unitsFor("hundredths_mm").force)).toBe("4.5 kN");
  });
});
