import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { stubServer, type Sent } from "../test/stub-server";
import type { Knobs, RatioDesk } from "./desk.svelte";

const kept = new Map<string, string>();
const drawer = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
};
const DESK = {
  axle: "rear",
  front: null,
  rear: { tyre: "215/75R16", pinion_teeth: 10, ring_teeth: 41 },
  ratios: [
    { pinion_teeth: 9, ring_teeth: 41, needs_carrier: false, needs_thick_ring: true },
    { pinion_teeth: 10, ring_teeth: 41, needs_carrier: false, needs_thick_ring: false },
  ],
  ring_outer_diameter_mm: 190,
  gearboxes: [{ code: "five", name: "Five", gears: [4, 2, 1] }],
  transfer_cases: [{ code: "two", name: "Two", high: 1.1, low: 2.4 }],
  first: {
    engine: {
      idle_rpm: 700,
      redline_rpm: 3900,
      torque: [
        { rpm: 1400, torque_nm: 300 },
        { rpm: 3800, torque_nm: 240 },
      ],
    },
    load: { mass_kg: 2600, drag_area_m2: 1.3, rolling: 0.014, efficiency: 0.9 },
    use: {
      cruise_kmh: 80,
      cruise_rpm_min: 1800,
      cruise_rpm_max: 2300,
      pinion_stress_mpa: 1000,
      hold_kmh: null,
    },
    weights: { cruise: 3, hold: 2, parts: 1 },
    speedometer: { source: "prop", factor_before: 1.02 },
    grades_pct: [5, 10],
  },
  results: [],
};

let worked: Sent[] = [];
let answer: (sent: Sent) => Response | Promise<Response> = () => Response.json({ compared: null });
stubServer((sent) => {
  if (sent.method === "GET") return Response.json(DESK);
  if (sent.path.endsWith("/ratio-work")) worked.push(sent);
  return answer(sent) as Response;
});
const { RatioDesk: Desk } = await import("./desk.svelte");

describe("the ratio desk", () => {
  let on: RatioDesk;
  const knobs = () => on.knobs as Knobs;

  beforeEach(async () => {
    vi.useFakeTimers();
    kept.clear();
    worked = [];
    answer = () => Response.json({ compared: null, said: worked.length });
    on = new Desk("job", drawer);
    await on.load();
  });
  afterEach(() => {
    on.stop();
    vi.useRealTimers();
  });

  it("begins with what the vehicle has", () => {
    expect([knobs().tyre_now.text, knobs().now.axle]).toEqual(["215/75R16", 1]);
  });
  it("asks with the server's figures where nothing is turned, and keeps them apart from what is", async () => {
    knobs().mass_kg = 3000;
    knobs().weights["hold"] = 5;
    const first = knobs().torque[0];
    if (first) first.torque_nm = 310;
    on.follow();
    await vi.advanceTimersByTimeAsync(200);
    expect(worked[0]?.body).toMatchObject({
      engine: { idle_rpm: 700, redline_rpm: 3900 },
      load: { mass_kg: 3000, drag_area_m2: 1.3, rolling: 0.014, efficiency: 0.9 },
      use: { cruise_kmh: 80, pinion_stress_mpa: 1000, hold_grade_pct: null },
      weights: { cruise: 3, hold: 5, parts: 1 },
      speedometer: { source: "prop", factor_before: 1.02, driven_teeth: null },
      grades_pct: [5, 10],
    });
    expect([DESK.first.weights.hold, DESK.first.engine.torque[0]?.torque_nm]).toEqual([2, 300]);
  });
  it("works out once when knobs are turned quickly", async () => {
    for (const cruise of [81, 82, 83]) {
      knobs().cruise_kmh = cruise;
      on.follow();
    }
    await vi.advanceTimersByTimeAsync(200);
    expect(worked.length).toBe(1);
    expect(worked[0]?.body["use"]).toMatchObject({ cruise_kmh: 83 });
    // nothing whole came back: what was shown stays, and says that it is older
    expect([on.inputs, on.stale]).toEqual([null, true]);
  });
  it("never shows an older answer for newer knobs", async () => {
    let release: (value: Response) => void = () => undefined;
    answer = () => new Promise<Response>((done) => (release = done));
    await vi.advanceTimersByTimeAsync(200);
    const slow = release;
    answer = () => Response.json({ compared: null, newest: true });
    knobs().cruise_kmh = 95;
    on.follow();
    await vi.advanceTimersByTimeAsync(200);
    slow(Response.json({ compared: null, newest: false }));
    await vi.advanceTimersByTimeAsync(10);
    expect(on.answer).toMatchObject({ newest: true });
  });
  it("says that the connection is lost, keeps the answer, and is worked out anew when it is loaded again", async () => {
    await vi.advanceTimersByTimeAsync(200);
    const shown = on.answer;
    answer = () => new Response("", { status: 503 });
    knobs().cruise_kmh = 91;
    on.follow();
    await vi.advanceTimersByTimeAsync(200);
    expect([on.lost, on.answer]).toEqual([true, shown]);
    answer = () => Response.json({ compared: null, said: "back" });
    await on.load();
    await vi.advanceTimersByTimeAsync(200);
    expect(on.lost).toBe(false);
    expect(on.answer).toMatchObject({ said: "back" });
    expect(worked.at(-1)?.body["use"]).toMatchObject({ cruise_kmh: 91 });
  });
  it("says a refusal and keeps what was turned", async () => {
    answer = () =>
      Response.json(
        { error: { code: "bad_input", message: "Gears fall.", field: "gears" } },
        { status: 422 },
      );
    knobs().mass_kg = 3200;
    on.follow();
    await vi.advanceTimersByTimeAsync(200);
    expect([on.wrong, knobs().mass_kg]).toEqual(["Gears fall.", 3200]);
  });
  it("keeps the knobs for the next visit, as far as they fit the lists", async () => {
    knobs().mass_kg = 3200;
    knobs().now = { gearbox: 7, axle: 1 };
    knobs().candidates = [
      { gearbox: 0, axle: 0 },
      { gearbox: 0, axle: 99 },
    ];
    on.follow();
    const again = new Desk("job", drawer);
    await again.load();
    expect(again.knobs?.mass_kg).toBe(3200);
    expect(again.knobs?.now).toEqual({ gearbox: 0, axle: 1 });
    expect(again.knobs?.candidates).toEqual([{ gearbox: 0, axle: 0 }]);
    again.stop();
  });
  it("starts anew when something else stands in their place", async () => {
    kept.set("amber.ratio.job", "{nonsense");
    const again = new Desk("job", drawer);
    await again.load();
    expect(again.knobs?.cruise_kmh).toBe(80);
    again.stop();
  });
  it("holds four candidates at most, and knows which stand beside", () => {
    for (let number = 0; number < 6; number += 1) on.beside({ gearbox: 0, axle: number % 2 });
    expect(knobs().candidates.length).toBe(4);
    expect(on.isBeside({ gearbox: 0, axle: 1 })).toBe(true);
    expect(on.isBeside({ gearbox: 3, axle: 1 })).toBe(false);
  });
  it("sends the transfer case with every gearbox", async () => {
    knobs().transfer = "two";
    on.follow();
    await vi.advanceTimersByTimeAsync(200);
    expect(worked.at(-1)?.body["gearboxes"]).toMatchObject([{ transfer_high: 1.1, transfer_low: 2.4 }]);
  });
  it("keeps with one id until it is answered", async () => {
    const ids: unknown[] = [];
    answer = (sent) => {
      if (!sent.path.endsWith("/ratio-results")) return Response.json({ compared: null });
      ids.push(sent.body["client_id"]);
      if (ids.length === 1) throw new TypeError("network");
      return Response.json({}, { status: 201 });
    };
    expect(await on.keep("winter")).toMatch(/connection is lost/);
    expect(await on.keep("winter")).toBeNull();
    expect(await on.keep("winter")).toBeNull();
    expect(ids[0]).toBe(ids[1]);
    expect(ids[2]).not.toBe(ids[1]);
  });
});
