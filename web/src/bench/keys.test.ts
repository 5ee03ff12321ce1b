import { describe, expect, it } from "vitest";

import { mayAnswer, shouldCatch } from "./keys";

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

describe("letters that answer a question", () => {
  it("count in the strip's own empty field and where nobody types, never elsewhere", () => {
    const strip = key("a", "INPUT");
    expect(mayAnswer(strip, strip.target)).toBe(true);
    expect(mayAnswer(key("X"), null)).toBe(true);
    expect(mayAnswer(key("a", "INPUT"), strip.target)).toBe(false);
    expect(mayAnswer({ ...key("a"), ctrlKey: true }, null)).toBe(false);
    expect(mayAnswer(key("a", "BUTTON", "dialog"), null)).toBe(false);
  });
  it("are never figures: those begin the next reading", () => {
    for (const name of ["0", "1", "9", ".", ",", "Enter"]) expect(mayAnswer(key(name), null)).toBe(false);
  });
});
