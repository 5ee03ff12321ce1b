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
let away = false;
stubServer((one) => {
  sent.push(one);
  if (away) return new Response("", { status: 503 });
  if (one.path.endsWith("/noise-finder"))
    return Response.json({ first: FELT, first_run: { faults: ["nothing"] }, recordings, findings });
  if (one.path.endsWith("/read-again")) {
    recordings = recordings.map((was) => ({ ...was, state: "queued" }));
    return Response.json(recordings.at(-1), { status: 201 });
  }
  const looked = recordings.find((was) => one.path.endsWith(`/recordings/${was.id}`));
  if (looked) return Response.json(looked);
  if (one.path.includes("/noise-findings/")) return Response.json({ felt: { ...FELT, where: "seat" } });
  if (one.path.endsWith("/simulated-recordings") || one.path.endsWith("/recordings")) {
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
    away = false;
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
    const whole = asked("/noise-finder").length;
    recordings = [{ id: "new", state: "done" }];
    await vi.advanceTimersByTimeAsync(1500);
    expect(asked("/noise-recorded").length).toBe(1);
    expect(on.recorded).toMatchObject({ said: "/api/v1/noise-recorded" });
    const looks = asked("/recordings/new").length;
    expect(looks).toBeGreaterThan(1);
    await vi.advanceTimersByTimeAsync(5000);
    expect([asked("/recordings/new").length, asked("/noise-finder").length]).toEqual([looks, whole]);
  });
  it("has a recording read again that could not be, and watches it", async () => {
    recordings = [{ id: "bad", state: "failed" }];
    await on.load();
    expect(await on.readAgain("bad")).toBeNull();
    expect(on.recording?.state).toBe("queued");
    recordings = [{ id: "bad", state: "done" }];
    await vi.advanceTimersByTimeAsync(1500);
    expect([on.recording?.state, asked("/noise-recorded").length]).toEqual(["done", 1]);
  });
  it("watches on once the way to the server is open", async () => {
    await on.simulate();
    away = true;
    await vi.advanceTimersByTimeAsync(1500);
    expect(on.lost).toBe(true);
    recordings = [{ id: "new", state: "done" }];
    const looks = asked("/noise-finder").length;
    await vi.advanceTimersByTimeAsync(5000);
    expect(asked("/noise-finder").length).toBe(looks);
    away = false;
    await on.again();
    await vi.advanceTimersByTimeAsync(1500);
    expect([on.lost, asked("/noise-recorded").length > 0]).toEqual([false, true]);
  });
  it("sends a file with the same id until it was answered, and another file with another", async () => {
    const file = (name: string) => new File(["t,a"], name, { lastModified: 5 });
    const ids = () => asked("/recordings").map((one) => one.body["client_id"]);
    away = true;
    expect(await on.send(file("a.csv"), 60, 110)).toContain("The connection is lost");
    away = false;
    expect(await on.send(file("a.csv"), 60, 110)).toBeNull();
    expect(on.picked).toBe("new");
    await on.send(file("b.csv"), 60, 110);
    await on.send(file("b.csv"), 60, 120);
    expect([ids()[0] === ids()[1], new Set(ids()).size]).toEqual([true, 3]);
    expect(asked("/recordings")[0]?.body).toMatchObject({ from_kmh: "60", to_kmh: "110" });
  });
  it("drives once, however often a lost answer is asked for again", async () => {
    const ids = () => asked("/simulated-recordings").map((one) => one.body["client_id"]);
    away = true;
    await on.simulate();
    away = false;
    await on.simulate();
    await on.simulate();
    expect([ids().length, ids()[0] === ids()[1], ids()[1] === ids()[2]]).toEqual([3, true, false]);
  });
  it("answers for the recording that is picked, however late another's answer comes", async () => {
    recordings = [
      { id: "one", state: "done" },
      { id: "two", state: "done" },
    ];
    await on.load();
    on.pick("one");
    on.pick("two");
    await vi.advanceTimersByTimeAsync(300);
    expect(asked("/noise-recorded").at(-1)?.body["recording"]).toBe("two");
    expect(on.recorded).not.toBeNull();
  });
});
