import { describe, expect, it } from "vitest";

import { oddsWords, turned } from "./odds";

describe("odds and turns in words", () => {
  it("claim no certainty at either end", () => {
    expect([90, 80, 30, 10].map(oddsWords)).toEqual([
      "90 % or more",
      "about 80 %",
      "about 30 %",
      "10 % or less",
    ]);
  });
  it("say which way a notch goes", () => {
    expect([2, -1, 0].map(turned)).toEqual(["2 notches in", "1 notch out", "stays"]);
  });
});
