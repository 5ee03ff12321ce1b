import { beforeEach, describe, expect, it } from "vitest";

import type { Station } from "../api/client";
import { stubServer } from "../test/stub-server";

type Answer = "done" | "lose" | "refuse" | "conflict";
let next: Answer[] = [];
const work = { id: "work", version: 2, steps: [] };
const job = { id: "job", version: 4, complaint: "stored", works: [{ id: "work", signed_off_at: null }] };
const got = stubServer((sent) => {
  if (sent.method === "GET") return Response.json(sent.path.includes("/work/") ? work : job);
  const answer = next.shift() ?? "done";
  if (answer === "lose") throw new TypeError("network");
  const error = {
    code: answer === "conflict" ? "conflict" : "held",
    message: "Hold: stands come first.",
    field: "step",
  };
  if (answer === "refuse") return Response.json({ error }, { status: 422 });
  if (answer === "conflict")
    return Response.json({ error, current: { ...job, complaint: "theirs" } }, { status: 409 });
  return Response.json(sent.path.includes("/work/") ? work : job, { status: 200 });
});
const { JobOnScreen } = await import("./job.svelte");

describe("a job on the screen", () => {
  beforeEach(() => {
    got.length = 0;
    next = [];
  });

  it("is what the server last said", async () => {
    const on = new JobOnScreen("job");
    await on.load();
    expect(on.job?.complaint).toBe("stored");
    expect(on.work?.version).toBe(2);
    expect(got.map((sent) => sent.path)).toEqual(["/api/v1/jobs/job", "/api/v1/work/work"]);
  });
  it("shows the piece of work that the address names", async () => {
    const on = new JobOnScreen("job", "other");
    await on.load();
    expect(got[1]?.path).toBe("/api/v1/work/other");
  });
  it("passes a step with the token of this login and an id of its own", async () => {
    const on = new JobOnScreen("job");
    expect(await on.pass("oil", { typed: "1.6" })).toBe(true);
    expect(got[0]).toMatchObject({
      method: "POST",
      path: "/api/v1/work/job/steps/oil/pass",
      token: "a token",
    });
    expect(got[0]?.body).toMatchObject({ typed: "1.6" });
    expect(String(got[0]?.body.client_id)).toMatch(/^[0-9a-f-]{36}$/);
  });
  it("tries a lost write again under the same id, and the next one under another", async () => {
    const on = new JobOnScreen("job");
    next = ["lose"];
    expect(await on.pass("oil", { typed: "1.6" })).toBe(false);
    expect(on.wrong).toContain("What you typed is kept");
    await on.pass("oil", { typed: "1.6" });
    await on.pass("oil", { typed: "1.7" });
    const ids = got.filter((sent) => sent.method === "POST").map((sent) => sent.body.client_id);
    expect(ids[0]).toBe(ids[1]);
    expect(ids[2]).not.toBe(ids[1]);
  });
  it("takes a new id after a refusal, since what follows is another attempt", async () => {
    const on = new JobOnScreen("job");
    next = ["refuse"];
    await on.takeBack("oil", "wrong oil");
    expect(on.wrong).toBe("Hold: stands come first.");
    await on.takeBack("oil", "wrong oil");
    const [first, second] = got.filter((sent) => sent.method === "POST");
    expect(first?.body.client_id).not.toBe(second?.body.client_id);
    expect(on.wrong).toBeNull();
  });
  it("keeps a refusal on the screen while the job is loaded again after the step before it", async () => {
    const on = new JobOnScreen("job");
    next = ["done", "refuse"];
    await on.pass("oil", { typed: "1.6" });
    await on.pass("odometer", { typed: "a lot" });
    await on.load();
    expect(on.wrong).toBe("Hold: stands come first.");
  });
  it("hands a conflict back with what is stored now, and keeps what it showed", async () => {
    const on = new JobOnScreen("job");
    await on.load();
    next = ["conflict"];
    const result = await on.edit({ version: 3, complaint: "mine" });
    expect(result).toMatchObject({ saved: false, theirs: { complaint: "theirs" } });
    expect(on.job?.complaint).toBe("stored");
  });
  it("sends what was counted for the gear set and how a station was found", async () => {
    const on = new JobOnScreen("job");
    await on.identify({ pinion_teeth: 10, ring_teeth: 41, by_turns: false, turn_uncertainty: 0.05 });
    await on.setStation({ place: "rear_shaft", version: 3 } as Station, "good", "free");
    const sent = got.filter((one) => one.method !== "GET");
    expect(sent.map((one) => `${one.method} ${one.path}`)).toEqual([
      "POST /api/v1/work/job/gear-set",
      "PUT /api/v1/jobs/job/stations/rear_shaft",
    ]);
    expect(sent[1]?.body).toMatchObject({ state: "good", note: "free", version: 3 });
  });
  it("is busy only while it waits", async () => {
    const on = new JobOnScreen("job");
    const waiting = on.pass("oil", { typed: "1.6" });
    expect(on.busy).toBe(true);
    await waiting;
    expect(on.busy).toBe(false);
  });
});
