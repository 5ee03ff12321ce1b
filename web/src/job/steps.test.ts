import { describe, expect, it } from "vitest";

import { askLabel, left, toGo, window, type Ask } from "./steps";

const ask = (more: Partial<Ask>): Ask => ({
  name: "gap",
  what: "Gap",
  dimension: "length",
  unit: "",
  limit: null,
  as_found: false,
  may_skip: false,
  beside: null,
  entered: "",
  verdict: "unknown",
  text: "",
  ...more,
});

describe("what a step asks for", () => {
  it("is labelled with the unit of a bare figure: its own, or the person's", () => {
    const units = { length: "thou", torque: "inlb" } as const;
    expect(askLabel(ask({}), units)).toBe("Gap (thou)");
    expect(askLabel(ask({ unit: "mm" }), units)).toBe("Gap (mm)");
    expect(askLabel(ask({ dimension: "torque" }), units)).toBe("Gap (in-lb)");
    expect(askLabel(ask({ dimension: "number" }), units)).toBe("Gap");
  });
  it("says the window of the sheet with its source", () => {
    const limit = {
      label: "",
      least: 0.1,
      greatest: 0.2,
      unit: "mm",
      source_note: "Sheet 4.",
      is_sample: false,
    };
    const said = (more: object) => window({ ...limit, ...more } as never);
    expect(said({})).toBe("Window 0.1 to 0.2 mm. Sheet 4.");
    expect(said({ least: null })).toBe("Window up to 0.2 mm. Sheet 4.");
    expect(said({ greatest: null })).toBe("Window at least 0.1 mm. Sheet 4.");
  });
});

describe("a clock", () => {
  it("runs down here between two answers, and stops at nothing", () => {
    const clock = { begun_at: "2026-11-27T10:00:00Z", until: "2026-11-27T10:30:00Z", minutes_to_go: 30 };
    const at = (time: string) => left(clock, new Date(`2026-11-27T${time}Z`).getTime());
    expect([at("10:00:00"), at("10:29:30"), at("11:00:00")]).toEqual([30, 0.5, 0]);
    expect(left({ ...clock, until: null }, 0)).toBeNull();
  });
  it("is told in minutes, and in hours from one hour on", () => {
    expect([toGo(0.2), toGo(59), toGo(725)]).toEqual(["1 min to go", "59 min to go", "12 h 5 min to go"]);
  });
});
