import { describe, expect, it } from "vitest";

import { assemblies, trend } from "./as-left";

const line = (name: string, said: string) => ({ name, what: name, said, found: "", verdict: "in" as const });
const visit = (number: number, place: string, lines: ReturnType<typeof line>[]) =>
  ({
    job_id: `j${number}`,
    number,
    left: [{ work_id: `w${number}`, place, label: place, signed_off_at: "2026-11-27T10:00:00Z", lines }],
  }) as never;

describe("what a vehicle was left with", () => {
  it("is a column a visit and a row a reading, with nothing where it was not read", () => {
    const [rear, front] = assemblies([
      visit(3, "rear_axle", [line("backlash", "0.17 mm")]),
      visit(2, "front_axle", [line("end play", "0.05 mm")]),
      visit(1, "rear_axle", [line("backlash", "0.15 mm"), line("torque", "2.1 Nm")]),
    ]);
    expect(rear?.columns.map((one) => one.number)).toEqual([3, 1]);
    expect(rear?.rows.map((row) => row.cells.map((cell) => cell?.said ?? "–"))).toEqual([
      ["0.17 mm", "0.15 mm"],
      ["–", "2.1 Nm"],
    ]);
    expect(front?.columns.length).toBe(1);
  });
  it("leaves out work that read nothing", () => {
    expect(assemblies([visit(1, "rear_axle", [])])).toEqual([]);
  });
  it("is drawn from the first visit on, found before left, and flat where nothing changed", () => {
    const cell = (value: number | null, found_value: number | null) =>
      ({ ...line("torque", `${value}`), found: `${found_value}`, value, found_value }) as never;
    const drawn = trend([cell(2.0, 1.0), null, cell(3.0, null), cell(null, null)]);
    expect(drawn).toEqual([
      { found: false, said: "3", height: 1 },
      { found: true, said: "1", height: 0 },
      { found: false, said: "2", height: 0.5 },
    ]);
    expect(trend([cell(2.0, 2.0)]).map((one) => one.height)).toEqual([0.5, 0.5]);
    expect(trend([null])).toEqual([]);
  });
});
