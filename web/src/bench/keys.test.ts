import { describe, expect, it } from "vitest";

import { shouldCatch } from "./keys";

const key = (name: string, tagName = "BODY", within: string | null = null) => ({
  key: name,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  target: { tagName, closest: () => within } as unknown as EventTarget,
});

describe("keys pressed anywhere", () => {
  it("start a reading when they are digits or a decimal mark", () => {
    for (const name of ["0", "9", ".", ","]) expect(shouldCatch(key(name))).toBe(true);
    expect(shouldCatch(key("7", "BUTTON"))).toBe(true);
  });
  it("are left alone when they are letters, shortcuts, or typed elsewhere", () => {
    expect(shouldCatch(key("a"))).toBe(false);
    expect(shouldCatch({ ...key("5"), ctrlKey: true })).toBe(false);
    for (const tag of ["INPUT", "TEXTAREA", "SELECT"]) expect(shouldCatch(key("5", tag))).toBe(false);
    expect(shouldCatch(key("5", "BUTTON", "dialog"))).toBe(false);
  });
});
