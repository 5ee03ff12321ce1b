import { describe, expect, it } from "vitest";

import { begun, belongs, plates, putAt, sent, slotsOf, typedAt, type Field, type Tool } from "./values";

const field = (name: string, more: Partial<Field> = {}): Field => ({
  name,
  label: name,
  kind: "length",
  needed: true,
  unit: "mm",
  options: [],
  begin: "",
  hint: "",
  section: "readings",
  many: null,
  places: [],
  angles: 0,
  columns: [],
  when: null,
  source: "",
  rows: [],
  ...more,
});
const tool = (...fields: Field[]): Tool => ({
  code: "gap",
  group: "Gears",
  title: "Gap",
  about: "",
  computation: "locker.gap",
  cautions: [],
  clocks: [],
  fields,
});

describe("what the strip asks for", () => {
  const gap = field("gap", { many: [2, 3], places: ["first end", "second end"] });

  it("is every reading of a list, one more than is typed, and never more than the list takes", () => {
    const keys = (values: Record<string, string[]>) => slotsOf(tool(gap), values).map((one) => one.label);
    expect(keys({ gap: [] })).toEqual(["gap, first end", "gap, second end"]);
    expect(keys({ gap: ["3.9", "4.0"] })).toEqual(["gap, first end", "gap, second end", "gap, reading 3"]);
    expect(keys({ gap: ["3.9", "4.0", "4.1"] })).toHaveLength(3);
  });

  it("keeps the places round the clock, and loses what is empty at the end", () => {
    const round = field("register", { angles: 8 });
    const slots = slotsOf(tool(round), {});
    expect(slots.map((one) => one.short).slice(0, 3)).toEqual(["0°", "45°", "90°"]);
    const [, , third] = slots;
    if (!third) throw new Error("no third place");
    const values = putAt({}, third, "4.6");
    expect(values.register).toEqual(["", "", "4.6"]);
    expect(typedAt(values, third)).toBe("4.6");
    expect(putAt(values, third, "").register).toEqual([]);
  });

  it("leaves out what belongs to another choice, and does not send it", () => {
    const known = field("known", { kind: "choice", section: "part", begin: "race" });
    const race = field("race", { when: ["known", "race"] });
    const pitch = field("pitch", { when: ["known", "pitch"] });
    const values = { ...begun(tool(known, race, pitch)), pitch: "20" };
    expect(belongs(pitch, values)).toBe(false);
    expect(slotsOf(tool(known, race, pitch), values).map((one) => one.key)).toEqual(["race"]);
    expect(sent(tool(known, race, pitch), values)).toEqual({ known: "race", race: "" });
  });
});

describe("a pack typed by letters", () => {
  it("is read plate by plate", () => {
    expect(plates("s F, s;h")?.map((one) => `${one.kind} ${one.keyed}`)).toEqual([
      "steel case",
      "friction gear",
      "steel case",
      "shim none",
    ]);
  });

  it("is refused whole for a letter that is none", () => {
    expect(plates("s f x")).toBeNull();
    expect(plates("")).toEqual([]);
  });
});

describe("a drawer's shims", () => {
  it("stand in the table to begin with, as rows of their own", () => {
    const kit = field("stock", {
      columns: [field("thickness_mm"), field("count")],
      rows: [{ thickness_mm: "0.3 mm", count: "2" }],
    });
    const values = begun(tool(kit));
    expect(values.stock).toEqual(kit.rows);
    expect(values.stock).not.toBe(kit.rows);
  });
});
