import { afterEach, describe, expect, it, vi } from "vitest";

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

describe("ids of writes without an answer", () => {
  const ids = new UnansweredIds();

  it("stay while the answer is lost, for the same content alone", () => {
    const first = ids.idFor("a reading");
    ids.answered("a reading", "lost");
    expect(ids.idFor("a reading")).toBe(first);
    expect(ids.idFor("another")).not.toBe(first);
  });
  it("end with an answer, whichever it is", () => {
    for (const kind of ["done", "refused"] as const) {
      const before = ids.idFor("a reading");
      ids.answered("a reading", kind);
      expect(ids.idFor("a reading")).not.toBe(before);
    }
  });
});
