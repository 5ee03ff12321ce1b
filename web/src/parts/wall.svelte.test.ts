import "fake-indexeddb/auto";

import { IDBFactory } from "fake-indexeddb";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Me } from "../api/client";
import { stubServer } from "../test/stub-server";

vi.stubGlobal("navigator", {}); // a page that is not served safely: without locks
type Answer = "done" | "lose" | "refuse" | "stumble" | "signed out" | "other";
let next: Answer[] = [];
const wall = (more: object = {}) => ({
  work_id: "work",
  parts: [],
  phones: [],
  needs: [],
  links: [],
  ...more,
});
const got = stubServer((sent) => {
  if (sent.method === "GET") return Response.json(wall());
  const answer = sent.path.endsWith("/announced") ? "done" : (next.shift() ?? "done");
  if (answer === "lose") throw new TypeError("network");
  if (answer === "stumble") return new Response("", { status: 500 });
  if (answer === "signed out")
    return Response.json({ error: { code: "signed_out", message: "", field: "" } }, { status: 401 });
  if (answer === "other")
    return Response.json(
      { error: { code: "other_person", message: "This was entered by tam.", field: "" } },
      { status: 409 },
    );
  if (answer === "refuse")
    return Response.json(
      { error: { code: "bad_input", message: "50 mm is no shim.", field: "stack" } },
      { status: 422 },
    );
  const under = sent.path.includes("/quote-links/") ? { work_id: "the other work" } : {};
  return Response.json(wall(under), { status: 201 });
});

/** The page as it is loaded again: what it kept lies in the browser. */
async function page() {
  vi.resetModules();
  const { WallOnScreen, NOTHING_TAKEN, nextOff, titled } = await import("./wall.svelte");
  const { money } = await import("../lib/quantity");
  const { setWriter } = await import("../lib/envelope");
  setWriter({ username: "isla", length_unit: "mm", torque_unit: "nm" } as Me);
  const off = (key: string) => ({ ...NOTHING_TAKEN, key });
  return { on: new WallOnScreen("work"), off, nextOff, money, titled };
}
const sent = () => got.filter((one) => one.method === "POST" && !one.path.endsWith("/announced"));
const picture = () => new Blob([new Uint8Array([255, 216, 255])], { type: "image/jpeg" });

describe("what comes off", () => {
  beforeEach(() => {
    globalThis.indexedDB = new IDBFactory();
    got.length = 0;
    next = [];
  });

  it("is sent at once, and kept no longer", async () => {
    const { on, off } = await page();
    await on.takeOff(off("cover"), [picture()]);
    expect(sent().map((one) => one.path.split("/").at(-1))).toEqual(["off", "photos"]);
    expect(sent()[0]?.body).toMatchObject({ key: "cover", person: "isla", length_unit: "mm" });
    expect(on.waiting).toEqual([]);
  });
  it("waits in order while the connection is lost, outlives the page, and is sent once with its id", async () => {
    const before = await page();
    next = ["lose", "lose", "lose"];
    for (const key of ["cover", "gask", "carr"]) await before.on.takeOff(before.off(key), []);
    expect(before.on.heldKeys).toEqual(["cover", "gask", "carr"]);
    expect(before.on.lost).toBe(true);
    const first = sent()[0]?.body["client_id"];
    got.length = 0;
    next = [];
    const { on } = await page();
    await on.load();
    expect(sent().map((one) => one.body["key"])).toEqual(["cover", "gask", "carr"]);
    expect(sent()[0]?.body["client_id"]).toBe(first);
    expect(on.waiting).toEqual([]);
  });
  it("tells the server how many there are, and when none is left", async () => {
    const { on, off } = await page();
    next = ["lose", "lose"];
    await on.takeOff(off("cover"), []);
    await on.takeOff(off("gask"), []);
    got.length = 0;
    await on.send();
    const told = got.filter((one) => one.path.endsWith("/announced")).map((one) => one.body["waiting"]);
    expect(told).toEqual([2, 0]);
  });
  it("is set aside with its sentence when it can never be taken, and what follows goes on", async () => {
    const { on, off } = await page();
    next = ["refuse", "done"];
    await on.takeOff({ ...off("sshim.ring"), stack: "50 mm" }, [picture()]);
    expect(on.waiting.map((one) => [one.key, one.wrong, one.code])).toEqual([
      ["sshim.ring", "50 mm is no shim.", "bad_input"],
    ]);
    expect(on.heldKeys).toEqual([]);
    await on.drop(on.waiting[0]?.seq ?? 0);
    expect(on.waiting).toEqual([]);
  });
  it("stays when the server stumbles or the login has ended", async () => {
    const { on, off } = await page();
    next = ["stumble", "signed out"];
    await on.takeOff(off("cover"), []);
    await on.send();
    expect(on.heldKeys).toEqual(["cover"]);
    await on.send();
    expect(on.heldKeys).toEqual([]);
  });
});

describe("what somebody else recorded here", () => {
  it("waits for them, and what follows goes on", async () => {
    globalThis.indexedDB = new IDBFactory();
    got.length = 0;
    const { on, off } = await page();
    next = ["lose", "other", "done"];
    await on.takeOff(off("cover"), []);
    await on.takeOff(off("gask"), []);
    expect(on.heldKeys).toEqual(["cover"]);
    expect([on.others, on.lost]).toEqual([true, false]);
    await on.send();
    expect(on.waiting).toEqual([]);
  });
});

describe("what stands to come off next", () => {
  const part = (key: string, more: object = {}) => ({ key, planned: true, state: "on", after: [], ...more });
  it("is the first of the plan that nothing holds up", async () => {
    const { nextOff } = await page();
    const parts = [part("cover", { after: ["oil"] }), part("oil"), part("seal", { planned: false })];
    const shown = wall({ parts }) as never;
    expect(nextOff(shown, [])?.key).toBe("oil");
    expect(nextOff(shown, ["oil"])?.key).toBe("cover");
    expect(nextOff(shown, ["oil", "cover"])).toBeNull();
  });
});

describe("how it is written", () => {
  it("has amounts with two places and a capital at the beginning", async () => {
    const { money, titled } = await page();
    expect([money(1250), money(null), titled("ring gear")]).toEqual(["12.50", "", "Ring gear"]);
  });
});

describe("a link of other work on the same assembly", () => {
  it("is withdrawn without leaving the wall that is open", async () => {
    got.length = 0;
    const { on } = await page();
    await on.load();
    expect(await on.endLink("link")).toBe(true);
    expect(on.wall?.work_id).toBe("work");
    expect(got.map((one) => one.method)).toEqual(["GET", "POST", "GET"]);
  });
});
