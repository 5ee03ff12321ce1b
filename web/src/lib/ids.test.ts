import { afterEach, describe, expect, it, vi } from "vitest";

import type { Me } from "../api/client";
import { setWriter } from "./envelope";
import { newId, UnansweredIds } from "./ids";

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/;

describe("an id made here", () => {
  afterEach(() => vi.unstubAllGlobals());

  it("is a random UUID", () => {
    expect(newId()).toMatch(UUID);
    expect(new Set(Array.from({ length: 50 }, newId)).size).toBe(50);
  });
  it("is one as well where the page is not served by TLS", () => {
    vi.stubGlobal("crypto", {
      getRandomValues: (bytes: Uint8Array) => bytes.fill(255),
    });
    expect(newId()).toBe("ffffffff-ffff-4fff-bfff-ffffffffffff");
    vi.stubGlobal("crypto", {
      getRandomValues: (bytes: Uint8Array) => bytes.map((_, index) => (bytes[index] = index)),
    });
    expect(newId()).toMatch(UUID);
  });
});

describe("envelopes of writes without an answer", () => {
  const ids = new UnansweredIds();
  const idOf = (what: string) => ids.envelope(what).client_id;

  it("stay while the answer is lost, for the same content alone", () => {
    const first = ids.envelope("a reading");
    ids.answered("a reading", { kind: "lost" });
    expect(ids.envelope("a reading")).toEqual(first);
    expect(idOf("another")).not.toBe(first.client_id);
  });
  it("stay while a server stumbles, a login has ended, or too much was asked", () => {
    for (const status of [500, 503, 401, 408, 429]) {
      const before = idOf("a reading");
      ids.answered("a reading", { kind: "refused", status });
      expect(idOf("a reading")).toBe(before);
    }
  });
  it("end with an answer, whichever it is", () => {
    for (const ended of [{ kind: "done" } as const, { kind: "refused", status: 422 } as const]) {
      const before = idOf("a reading");
      ids.answered("a reading", ended);
      expect(idOf("a reading")).not.toBe(before);
    }
  });
  it("keep the unit and the person that they were written with", () => {
    setWriter({ username: "isla", length_unit: "thou", torque_unit: "nm" } as Me);
    const first = ids.envelope("8 at the top");
    setWriter({ username: "tam", length_unit: "mm", torque_unit: "inlb" } as Me);
    expect(ids.envelope("8 at the top")).toEqual(first);
    expect(first).toMatchObject({ person: "isla", length_unit: "thou" });
    expect(ids.envelope("9 at the top")).toMatchObject({
      person: "tam",
      length_unit: "mm",
      torque_unit: "inlb",
    });
  });
});
