import { describe, expect, it } from "vitest";

import { filled, type Typed } from "./type-in";

const typed = (more: Partial<Typed>): Typed => ({
  done: false,
  values: {},
  way: "",
  reason: "",
  note: "",
  ...more,
});
const step = (act: string, more: object = {}) =>
  ({ act, missing: null, measure: "", asks: [], ...more }) as never;
const asks = [
  { name: "a", may_skip: false },
  { name: "b", may_skip: true },
];

describe("what was typed in from paper", () => {
  it("is saved once what the step asks for is there", () => {
    expect(filled(step("confirm"), typed({ done: true }))).toBe(true);
    expect(filled(step("confirm"), typed({ note: "only a note" }))).toBe(false);
    expect(filled(step("read", { asks }), typed({ values: { a: "1", b: " " } }))).toBe(true);
    expect(filled(step("read", { asks }), typed({ values: { b: "1" } }))).toBe(false);
    expect(filled(step("choose"), typed({ way: "clip" }))).toBe(true);
  });
  it("is never a clock, a wait, or what a desk answers for", () => {
    for (const one of [step("clock"), step("wait"), step("measure", { missing: "Go to the bench." })])
      expect(filled(one, typed({ done: true }))).toBe(false);
  });
});
