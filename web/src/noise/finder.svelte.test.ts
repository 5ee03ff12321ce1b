import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { stubServer, type Sent } from "../test/stub-server";
import type { NoiseFinder } from "./finder.svelte";

const kept = new Map<string, string>();
const drawer = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
};
const FELT = {
  drivetrain: { circumference_m: 2.2, axle_ratio: 4.1 },
  tests: [{ speed_kmh: 90 }],
  outcomes: [],
};
let recordings: { id: string; state: string }[] = [];
let findings: { id: string; kind: string }[] = [];
let sent: Sent[] = [];
stubServer((one) => {
  sent.push(one);
  if (one.path.endsWith("/noise-finder"))
    return Response.json({ first: FELT, first_run: { faults: ["nothing"] }, recordings, findings });
  if (one.path.includes("/noise-findings/")) return Response.json({ felt: { ...FELT, where: "seat" } });
  if (one.path.endsWith("/simulated-recordings")) {
    recordings = [...recordings, { id: "new", state: "queued" }];
    return Response.json({ id: "new" }, { status: 201 });
  }
  return Response.json({ said: one.path });
});
const { NoiseFinder: Finder } = await import("./finder.svelte");
const asked = (end: string) => sent.filter((one) => one.path.endsWith(end));

describe("the noise finder", () => {
  let on: NoiseFinder;
  beforeEach(async () => {
    vi.useFakeTimers();
    kept.clear();
    sent = [];
    recordings = [];
    findings = [];
    on = new Finder("job", drawer);
    await on.load();
    await vi.advanceTimersByTimeAsync(300);
  });
  afterEach(() => {
    on.stop();
    vi.useRealTimers();
  });

  it("ranks at once, and again with the outcome of a check", async () => {
    expect(asked("/noise-felt").length).toBe(1);
    on.outcome("standing", "changed");
    on.outcome("standing", "stayed");
    await vi.advanceTimersByTimeAsync(300);
    expect(asked("/noise-felt").at(-1)?.body["felt"]).toMatchObject({
      outcomes: [{ code: "standing", result: "stayed" }],
    });
    on.takeBack("standing");
    expect(on.felt?.outcomes).toEqual([]);
  });
  it("outlives the page, else begins with what was last kept", async () => {
    findings = [{ id: "f", kind: "felt" }];
    const other = new Finder("job", drawer);
    await other.load();
    expect(other.felt?.where).toBe("seat");
    other.stop();
    on.changed();
    const again = new Finder("job", drawer);
    await again.load();
    expect(again.felt?.where).toBeUndefined();
    again.stop();
  });
  it("watches a recording until it is read, then holds it against the vehicle", async () => {
    expect(await on.simulate()).toBeNull();
    expect(on.picked).toBe("new");
    await vi.advanceTimersByTimeAsync(1500);
    expect(asked("/noise-recorded").length).toBe(0);
    const looks = asked("/noise-finder").length;
    recordings = [{ id: "new", state: "done" }];
    await vi.advanceTimersByTimeAsync(1500);
    expect(asked("/noise-recorded").length).toBe(1);
    expect(on.recorded).toMatchObject({ said: "/api/v1/noise-recorded" });
    await vi.advanceTimersByTimeAsync(5000);
    expect(asked("/noise-finder").length).toBeLessThanOrEqual(looks + 1);
  });
});
