import { describe, expect, it } from "vitest";

import { told, unitsFor } from "./units";

describe("units of the desks", () => {
  it("are metric for millimetres and imperial for thousandths", () => {
    expect(told(100, unitsFor("mm").speed)).toBe("100 km/h");
    expect(told(100, unitsFor("thou").speed)).toBe("62 mph");
    expect(told(1000, unitsFor("thou").mass)).toBe("2205 lb");
    expect(told(4500, unitsFor("hundredths_mm").force)).toBe("4.5 kN");
  });
  it("carry lengths and torques too, with as many places as they are read to", () => {
    expect(told(1250, unitsFor("mm").size)).toBe("1250 mm");
    expect(told(1250, unitsFor("thou").size)).toBe("49.2 in");
    expect(told(76.2, unitsFor("thou").size, 3)).toBe("3.000 in");
    expect(told(100, unitsFor("thou").torque)).toBe("74 lb-ft");
  });
  it("come back to what they were: a typed figure divided by what shows it", () => {
    for (const unit of ["mm", "thou"] as const)
      for (const { per } of Object.values(unitsFor(unit))) expect((88.9 * per) / per).toBeCloseTo(88.9, 9);
  });
});
