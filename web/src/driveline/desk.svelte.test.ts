import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { stubServer, type Sent } from "../test/stub-server";
import type { DrivelineDesk, Inputs } from "./desk.svelte";

const kept = new Map<string, string>();
const drawer = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
};
const member = (value_deg: number) => ({ side: { value_deg, reference: "level", axle_end: "lower" } });
const first = (chain: "rear" | "front") => ({
  readings: {
    chain,
    output: member(3),
    shafts: [{ length_mm: 1250, member: member(6.5), bearing_from_front_mm: null, clock_deg: 0 }],
    pinion: member(3),
    joints: ["cardan", "cardan"],
    points_mm: null,
    mount: null,
  },
  teeth: [null],
  speed: { speed_kmh: 90 },
  allowed: {},
  tried: null,
});
let desk: Record<string, unknown> = {};
let sent: Sent[] = [];
let refuse = false;
let away = false;
const server = stubServer((one) => {
  sent.push(one);
  if (away) return new Response("", { status: 503 });
  if (one.path.endsWith("/driveline-desk")) return Response.json(desk);
  if (one.path.includes("/driveline-results/"))
    return Response.json({ inputs: { ...first("rear"), teeth: [16] } });
  if (refuse)
    return Response.json(
      { error: { code: "bad_input", message: "Too steep.", field: "x" } },
      { status: 422 },
    );
  if (one.path.endsWith("/driveline-remedies"))
    return Response.json({
      recommended: { plan: { settings: { wedge_deg: 2, clock_shaft_1: 22.5 }, changes: [{}] } },
    });
  return Response.json({
    read: {
      points_mm: [
        [0, 0, 0],
        [1200, 0, -140],
      ],
      vehicle: { clock_deg: [one.body["set_over"] ? 22.5 : 0] },
    },
    said: sent.length,
  });
});
const { DrivelineDesk: Desk, freeFor, MAY_CHANGE, triedFor, withShafts } = await import("./desk.svelte");

const worked = () => sent.filter((one) => one.path.endsWith("/driveline-work"));

describe("the driveline desk", () => {
  let on: DrivelineDesk;
  const inputs = () => on.inputs as Inputs;

  beforeEach(async () => {
    vi.useFakeTimers();
    kept.clear();
    sent = [];
    refuse = away = false;
    desk = { first_rear: first("rear"), first_front: first("front"), results: [], inspections: [] };
    on = new Desk("job", drawer);
    await on.load();
    await vi.advanceTimersByTimeAsync(200);
  });
  afterEach(() => {
    on.stop();
    vi.useRealTimers();
  });

  it("begins with samples and says so until something is typed", () => {
    expect(on.untouched).toBe(true);
    inputs().readings.pinion.side.value_deg = 1;
    on.changed();
    expect(on.untouched).toBe(false);
  });
  it("begins with what was last kept", async () => {
    desk = { ...desk, results: [{ id: "r", shaft: "rear" }] };
    const other = new Desk("job", drawer);
    await other.load();
    expect(other.inputs?.teeth).toEqual([16]);
    expect(other.untouched).toBe(false);
    other.stop();
  });
  it("keeps what is typed for each driveline by itself", async () => {
    inputs().readings.pinion.side.value_deg = 1;
    on.changed();
    await on.show("front");
    expect(inputs().readings.pinion.side.value_deg).toBe(3);
    await on.show("rear");
    expect(inputs().readings.pinion.side.value_deg).toBe(1);
    const again = new Desk("job", drawer);
    await again.load();
    expect(again.inputs?.readings.pinion.side.value_deg).toBe(1);
    again.stop();
  });
  it("works out once when somebody types quickly, and shows the refusal beside the last answer", async () => {
    const before = worked().length;
    for (const value of [1, 2, 4]) {
      inputs().readings.pinion.side.value_deg = value;
      on.changed();
    }
    await vi.advanceTimersByTimeAsync(200);
    expect(worked().length).toBe(before + 1);
    const answer = on.answer;
    refuse = true;
    on.changed();
    await vi.advanceTimersByTimeAsync(200);
    expect([on.wrong, on.answer]).toEqual(["Too steep.", answer]);
  });
  it("is worked out again once the way to the server is open", async () => {
    away = true;
    on.changed();
    await vi.advanceTimersByTimeAsync(200);
    expect(on.lost).toBe(true);
    const before = worked().length;
    await on.again();
    await vi.advanceTimersByTimeAsync(200);
    expect([on.lost, worked().length]).toEqual([true, before]);
    away = false;
    await on.again();
    await vi.advanceTimersByTimeAsync(200);
    expect([on.lost, worked().length]).toEqual([false, before + 1]);
  });
  it("takes the joints' centres once one is dragged", () => {
    on.drag(1, [1210, 5, -140]);
    expect(inputs().readings.points_mm).toEqual([
      [0, 0, 0],
      [1210, 5, -140],
    ]);
    on.drag(0, [1, 0, 0]);
    expect(inputs().readings.points_mm?.[1]).toEqual([1210, 5, -140]);
  });
  it("tries a plan and leaves it again", async () => {
    expect(await on.find()).toBeNull();
    on.tryPlan();
    expect(inputs().tried).toEqual({ wedge_deg: 2, shim_mm: 0, mount_mm: 0, clock_deg: [22.5] });
    on.leave();
    expect(inputs().tried).toBeNull();
  });
  it("tells how the yokes stand: as typed until it is worked out, then with the teeth they are set over by", async () => {
    expect(on.clocks).toEqual([0]);
    inputs().teeth = [16];
    inputs().set_over = [1];
    on.changed();
    await vi.advanceTimersByTimeAsync(200);
    expect(on.clocks).toEqual([22.5]);
  });
  it("looks for a remedy with the other driveline as it was typed", async () => {
    await on.show("front");
    on.changed();
    await on.show("rear");
    await on.find();
    const asked = sent.filter((one) => one.path.endsWith("/driveline-remedies")).at(-1);
    expect(asked?.body["front"]).toMatchObject({ readings: { chain: "front" } });
  });
  it("sends the same id again only while there was no answer", async () => {
    refuse = true;
    expect(await on.keep("a")).toBe("Too steep.");
    refuse = false;
    expect(await on.keep("a")).toBeNull();
    const ids = sent
      .filter((one) => one.path.endsWith("/driveline-results"))
      .map((one) => one.body["client_id"]);
    expect(new Set(ids).size).toBe(2);
    expect(server.length).toBeGreaterThan(0);
  });
});

describe("its inputs", () => {
  const plain = first("rear") as unknown as Inputs;
  it("gain a joint with every shaft, and lose the places that no longer hold", () => {
    const three = withShafts({ ...plain, readings: { ...plain.readings, points_mm: [[0, 0, 0]] } }, 3);
    expect([three.readings.shafts.length, three.readings.joints?.length, three.teeth?.length]).toEqual([
      3, 4, 3,
    ]);
    expect(three.readings.points_mm).toBeNull();
    const one = withShafts(three, 1);
    expect([one.readings.shafts.length, one.readings.joints?.length]).toEqual([1, 2]);
    const over = withShafts({ ...plain, teeth: [16], set_over: [2] }, 2);
    expect([over.teeth, over.set_over]).toEqual([
      [16, null],
      [2, null],
    ]);
    expect(withShafts(plain, 0)).toBe(plain);
    expect(withShafts(plain, 4)).toBe(plain);
  });
  it("offer for change only what this driveline has", () => {
    expect(freeFor({ ...MAY_CHANGE, mount: true }, plain)).toEqual({
      wedge_deg: [-6, 6],
      shim_mm: null,
      mount_mm: null,
      clock_deg: null,
    });
    const rich = { ...withShafts(plain, 2), teeth: [null, 32] };
    rich.readings.mount = { front_ahead_mm: 900, tail_ahead_mm: 60 };
    expect(freeFor({ ...MAY_CHANGE, mount: true }, rich)).toEqual({
      wedge_deg: [-6, 6],
      shim_mm: [-20, 20],
      mount_mm: [-20, 20],
      clock_deg: { "2": [-45, 45] },
    });
  });
  it("try a plan with the clocking that is in where the plan says nothing of it", () => {
    expect(triedFor({ wedge_deg: 1.5 }, [11.25])).toEqual({
      wedge_deg: 1.5,
      shim_mm: 0,
      mount_mm: 0,
      clock_deg: [11.25],
    });
  });
});
