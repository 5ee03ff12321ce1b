import { describe, expect, it } from "vitest";

import { inPersonsUnits } from "./sentences";

describe("the core's sentences", () => {
  it("stay as they are for who works in millimetres", () => {
    const said = "Add 0.18 mm to the depth shim: 1.16 mm.";
    expect(inPersonsUnits(said, "hundredths_mm")).toBe(said);
  });
  it("are told in thousandths", () => {
    expect(inPersonsUnits("Add 0.18 mm to the depth shim: 1.16 mm.", "thou")).toBe(
      "Add 7.1 thou to the depth shim: 45.7 thou.",
    );
  });
  it("take figures that share a unit along", () => {
    expect(inPersonsUnits("Window 0.13 to 0.20 mm, 0.10 ± 0.02 mm too deep.", "thou")).toBe(
      "Window 5.1 to 7.9 thou, 3.9 ± 0.8 thou too deep.",
    );
  });
  it("tell whole millimetres, which are shafts and strokes, in inches", () => {
    expect(inPersonsUnits("Spline in engagement is 81 mm; least allowed 70 mm.", "thou")).toBe(
      "Spline in engagement is 3.19 in; least allowed 2.76 in.",
    );
    expect(inPersonsUnits("Raise it by 8 mm; 0.25 mm is in.", "thou")).toBe(
      "Raise it by 0.31 in; 9.8 thou is in.",
    );
  });
  it("leave counts, shares and other units alone", () => {
    const said = "Trial 2: 90 % at 1500 rpm; 3 notches; 5 mmHg.";
    expect(inPersonsUnits(said, "thou", "inlb")).toBe(said);
  });
  it("follow the torque unit of the person, whatever the length unit", () => {
    expect(inPersonsUnits("The rotating torque is 2.10 Nm; least allowed 1.60 Nm.", "mm", "inlb")).toBe(
      "The rotating torque is 18.6 in-lb; least allowed 14.2 in-lb.",
    );
  });
  it("tell speeds in miles", () => {
    expect(inPersonsUnits("reaches 153 km/h instead of 149 km/h", "thou")).toBe(
      "reaches 95 mph instead of 93 mph",
    );
  });
});
