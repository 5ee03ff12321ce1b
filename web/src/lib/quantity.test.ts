import { describe, expect, it } from "vitest";

import {
  figure,
  length,
  otherLength,
  shim,
  stack,
  window,
  withDoubt,
  signed,
  torque,
  torqueWindow,
  typedStack,
} from "./quantity";

describe("lengths", () => {
  it("show the step of the dial, in the person's unit", () => {
    expect(length(0.2032, "thou")).toBe("8.0 thou");
    expect(length(0.2032, "hundredths_mm")).toBe("0.20 mm");
    expect(length(0.2032, "mm")).toBe("0.20 mm");
    expect(otherLength(0.2032, "thou")).toBe("0.20 mm");
    expect(otherLength(0.2032, "mm")).toBe("8.0 thou");
  });
  it("say what the instrument cannot tell apart", () => {
    expect(withDoubt(0.203, 0.01, "mm")).toBe("0.20 ± 0.01 mm");
    expect(withDoubt(0.203, 0.01, "thou")).toBe("8.0 ± 0.4 thou");
  });
  it("never change their number of places", () => {
    for (const mm of [0, 0.1, 0.15, 0.999, 1]) expect(figure(mm, "mm")).toMatch(/^\d\.\d\d$/);
  });
});

describe("windows", () => {
  it("are said with what is known of them", () => {
    expect(window(0.13, 0.2, "mm")).toBe("0.13 to 0.20 mm");
    expect(window(null, 0.07, "mm")).toBe("up to 0.07 mm");
    expect(window(0.1, null, "mm")).toBe("from 0.10 mm");
    expect(window(null, null, "mm")).toBe("no limit known");
  });
});

describe("shims", () => {
  it("show a third place only when it says something", () => {
    expect(shim(4.55, "mm")).toBe("4.55 mm");
    expect(shim(0.254, "mm")).toBe("0.254 mm");
  });
  it("stand in a stack piece by piece", () => {
    const pieces = [
      { thickness_mm: 0.5, count: 2 },
      { thickness_mm: 0.05, count: 1 },
    ];
    expect(stack(pieces, "mm")).toBe("0.50 + 0.50 + 0.05");
    expect(stack([], "mm")).toBe("no shims");
    expect(typedStack(pieces)).toBe("0.5 mm + 0.5 mm + 0.05 mm");
    expect(typedStack([])).toBe("none");
  });
});

describe("torques and signs", () => {
  it("are in the person's unit", () => {
    expect(torque(2.1, "nm")).toBe("2.10 Nm");
    expect(torque(2.1, "inlb")).toBe("18.6 in-lb");
    expect(torqueWindow({ least: 1.6, greatest: 2.6 }, "nm")).toBe("1.60 to 2.60 Nm");
    expect(torqueWindow({ least: null, greatest: 2.6 }, "inlb")).toBe("up to 23.0 in-lb");
    expect(torqueWindow({ least: 210, greatest: null }, "nm")).toBe("from 210.00 Nm");
    expect(torqueWindow(null, "nm")).toBe("no limit known");
  });
  it("have no sign when they round to nothing", () => {
    expect(signed(0.05, "mm")).toBe("+0.05 mm");
    expect(signed(-0.05, "mm")).toBe("−0.05 mm");
    expect(signed(-0.001, "mm")).toBe("0.00 mm");
    expect(signed(0.0254, "thou")).toBe("+1.0 thou");
  });
});
