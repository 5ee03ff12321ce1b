import { describe, expect, it } from "vitest";

import { sideNames } from "./sides";

describe("the carrier's sides", () => {
  it("are ring side and far side, whoever stands where", () => {
    expect(sideNames({ ring_on: "" })).toEqual({ ring: "Ring gear side", far: "Far side" });
  });
  it("carry the vehicle's left and right once they are known", () => {
    expect(sideNames({ ring_on: "left" })).toEqual({ ring: "Ring gear side, left", far: "Far side, right" });
    expect(sideNames({ ring_on: "right" })).toEqual({ ring: "Ring gear side, right", far: "Far side, left" });
  });
});
