import { describe, expect, it } from "vitest";

import { DRAWINGS } from "./drawings";
import { placeFor, screenAt } from "./keys";
import { termsIn } from "./terms-in";

const TERMS = [
  { name: "ring gear", also: ["crown wheel"] },
  { name: "pinion depth", also: ["head depth"] },
  { name: "pinion", also: [] },
  { name: "propshaft", also: ["driveshaft"] },
];

describe("the terms in a text", () => {
  it("are found by name, the longest first, in the plural and with a hyphen too", () => {
    expect(termsIn("Measured pinion depth; ring-gears.", TERMS).map((one) => one.name)).toEqual([
      "pinion depth",
      "ring gear",
      "pinion",
    ]);
  });
  it("are found by what others call them, where no name of ours stands", () => {
    expect(termsIn("the Driveshaft", TERMS).map((one) => one.name)).toEqual(["propshaft"]);
    expect(termsIn("opinions springgear", TERMS)).toEqual([]);
  });
});

describe("going to a place", () => {
  const work = "/jobs/11111111-1111-1111-1111-111111111111/work/22222222-2222-2222-2222-222222222222";
  it("works from anywhere, and to the desks of the work that is open", () => {
    expect(placeFor("f", "/stores")).toBe("/");
    expect(placeFor("B", `${work}/ratios`)).toBe(`${work}/bench`);
    expect(placeFor("j", `${work}/ratios`)).toBe(work);
    expect(placeFor("d", "/jobs/11111111-1111-1111-1111-111111111111")).toBe(
      "/jobs/11111111-1111-1111-1111-111111111111/work/11111111-1111-1111-1111-111111111111/driveline",
    );
  });
  it("leads nowhere without a job, or for a letter without a place", () => {
    expect([placeFor("b", "/stores"), placeFor("b", "/jobs/new"), placeFor("z", work)]).toEqual([
      null,
      null,
      null,
    ]);
  });
  it("knows which screen has keys of its own", () => {
    expect([screenAt(`${work}/bench`)?.name, screenAt(work)?.name, screenAt("/stores")]).toEqual([
      "Set-up bench",
      "Run sheet",
      null,
    ]);
  });
});

describe("drawings of the glossary", () => {
  it("are all drawn within their paper", () => {
    for (const [name, { line, part }] of Object.entries(DRAWINGS))
      for (const d of [line, part]) {
        expect(d.startsWith("M"), name).toBe(true);
        for (const [, x, y] of d.matchAll(/[ML](\d+) (\d+)/g))
          expect([Number(x) <= 120, Number(y) <= 72], `${name} ${d}`).toEqual([true, true]);
      }
  });
});
