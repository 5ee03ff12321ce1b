// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/svelte";
import { afterEach, describe, expect, it, vi } from "vitest";

import type { Bench, Trial } from "../../api/client";
import type { BenchOnScreen } from "../bench.svelte";

vi.mock("../../lib/context", () => ({ getSession: () => ({ say: (text: string) => text }) }));
const PatternEntry = (await import("./PatternEntry.svelte")).default;

const one = (id: string, u: number) => ({
  id,
  u,
  v: 0.5,
  length: 0.5,
  height: 0.45,
  tilt_deg: 10,
  runs_off: [],
  photo: null,
  photo_place: null,
  note: "",
  by_name: "Isla Moray",
  at: "2026-11-01T10:00:00Z",
});
const BENCH = {
  proportions: { face_mm: 30, toe_depth_mm: 7, heel_depth_mm: 9 },
  pattern_window: {
    drive: { u_min: 0.25, u_max: 0.58, v_min: 0.3, v_max: 0.7 },
    coast: { u_min: 0.22, u_max: 0.7, v_min: 0.28, v_max: 0.72 },
  },
  start: { drive_flank: "convex" },
} as unknown as Bench;

function shown(...places: number[]) {
  const takePattern = vi.fn<(trial: string, given: { replaces: string | null }) => Promise<null>>(() =>
    Promise.resolve(null),
  );
  const readings = places.map((u, index) => one(`r${index + 1}`, u));
  const last = readings.at(-1);
  const mean = {
    u: 0.52,
    v: 0.5,
    sd_u: 0.03,
    sd_v: 0.04,
    count: readings.length,
    runs_off: [],
    apart: false,
  };
  const trial = {
    id: "t1",
    coast: null,
    drive: last ? { ...last, mean, readings } : null,
  } as unknown as Trial;
  const on = { busy: false, takePattern, preview: () => Promise.resolve(null) } as unknown as BenchOnScreen;
  render(PatternEntry, { on, bench: BENCH, trial, flank: "drive", contact: null, mayRecord: true });
  return takePattern;
}
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const draw = () =>
  fireEvent.input(screen.getByLabelText("Toe to heel", { selector: "input" }), { target: { value: "0.44" } });

describe("a patch on the flank", () => {
  afterEach(cleanup);

  it("is taken as the first reading, with nothing to correct", async () => {
    const taken = shown();
    expect(screen.queryByRole("button", { name: "Correct the last reading" })).toBeNull();
    await draw();
    await press("Record the drive pattern");
    expect(taken.mock.calls[0]?.[1]).toMatchObject({ flank: "drive", u: 0.44, replaces: null });
  });
  it("counts beside what was read before, or puts the last reading right", async () => {
    const taken = shown(0.6);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Correct the last reading" }).disabled).toBe(
      true,
    );
    await draw();
    await press("Record another reading");
    await draw();
    await press("Correct the last reading");
    expect(taken.mock.calls.map((call) => call[1].replaces)).toEqual([null, "r1"]);
  });
  it("tells the mean of several readings and who read each", () => {
    shown(0.6, 0.44);
    expect(screen.getByText("Mean of 2 readings:").parentElement?.textContent).toContain(
      "52 % ± 3 % toe to heel",
    );
    const list = screen.getByRole("list", { name: "Readings of the drive pattern" });
    expect(list.textContent).toContain("60 %, 50 %, Isla Moray");
  });
});
