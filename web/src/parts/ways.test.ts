import { describe, expect, it } from "vitest";

import { pricedOf, questionOf } from "./ways";

describe("ways and their prices", () => {
  const ways = [
    { name: " sleeve ", minutes: 30, parts: 2400, days: null },
    { name: "new flange", minutes: null, parts: null, days: 4 },
  ];
  it("ask for nothing before an hour has its price", () => {
    expect(questionOf({ hourly: null, ways })).toBeNull();
  });
  it("leave out what has no price yet", () => {
    expect(questionOf({ hourly: 6000, ways })?.ways).toEqual([
      { name: "sleeve", minutes: 30, parts: [{ name: "Parts", price: 2400, count: 1 }], wait_days: 0 },
    ]);
  });
  it("come back as they were typed", () => {
    const kept = questionOf({ hourly: 6000, ways: [{ name: "a", minutes: 10, parts: 150, days: 2 }] });
    expect(pricedOf(kept as unknown as Record<string, unknown>)).toEqual({
      hourly: 6000,
      ways: [{ name: "a", minutes: 10, parts: 150, days: 2 }],
    });
    expect(pricedOf(null)).toEqual({ hourly: null, ways: [] });
  });
});
