import { beforeEach, describe, expect, it } from "vitest";

import { stubServer } from "../test/stub-server";

let me: unknown = null;
let lost = false;
stubServer((sent) => {
  if (lost) throw new TypeError("network");
  if (sent.path.endsWith("/sign-out")) return new Response(null, { status: 204 });
  return Response.json(me);
});
const { Session } = await import("./session.svelte");
const { newId } = await import("./ids");
const isla = { username: "isla", length_unit: "thou", theme: "pit" };

describe("who is signed in", () => {
  beforeEach(() => {
    me = null;
    lost = false;
  });

  it("is nobody until somebody is", async () => {
    const session = new Session();
    await session.load();
    expect([session.me, session.loaded, session.unit]).toEqual([null, true, "mm"]);
    me = isla;
    await session.load();
    expect(session.unit).toBe("thou");
  });
  it("stays on the page when the login ends, and is asked for again", async () => {
    me = isla;
    const session = new Session();
    await session.load();
    session.end();
    expect([session.ended, session.me?.username]).toEqual([true, "isla"]);
    session.take(session.me);
    expect(session.ended).toBe(false);
  });
  it("has no login to end when nobody is there", async () => {
    const session = new Session();
    await session.load();
    session.end();
    expect(session.ended).toBe(false);
  });
  it("is told apart from a server that does not answer", async () => {
    lost = true;
    const session = new Session();
    await session.load();
    expect([session.lost, session.me]).toEqual([true, null]);
  });
  it("is nobody after signing out", async () => {
    me = isla;
    const session = new Session();
    await session.load();
    await session.signOut();
    expect(session.me).toBeNull();
  });
});

describe("client-made ids", () => {
  const form = /^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/;
  it("are different every time and of one form", () => {
    const ids = Array.from({ length: 50 }, newId);
    expect(new Set(ids).size).toBe(50);
    for (const id of ids) expect(id).toMatch(form);
  });
  it("are made without TLS too", () => {
    const kept = crypto.randomUUID;
    Object.defineProperty(crypto, "randomUUID", { value: undefined, configurable: true });
    try {
      expect(newId()).toMatch(form);
    } finally {
      Object.defineProperty(crypto, "randomUUID", { value: kept, configurable: true });
    }
  });
});
