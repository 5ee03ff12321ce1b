import type { Schemas } from "../api/client";

export type Tool = Schemas["ToolOut"];
export type Field = Schemas["FieldOut"];
export type Column = Schemas["ColumnOut"];
export type Row = Record<string, string>;
/** As typed, by the name of the field: a text, readings, or rows. */
export type Typed = string | string[] | Row[];
export type Values = Record<string, Typed>;

/** Eight places of the clock, and so on. */
export const angleOf = (field: Field, index: number): number => (360 / field.angles) * index;
export const sameAngle = (one: number, other: number): boolean => Math.abs(one - other) < 0.01;

/** What stands at a tool before anything is typed. */
export function begun(tool: Tool): Values {
  const found: Values = {};
  for (const field of tool.fields) {
    if (field.columns.length > 0) found[field.name] = field.rows.map((row) => ({ ...row }));
    else if (field.many || field.angles) found[field.name] = [];
    else found[field.name] = field.begin;
  }
  return found;
}

/** Whether a field belongs to what was chosen. */
export function belongs(field: Field, values: Values): boolean {
  const [name, code] = field.when ?? [];
  return name === undefined || values[name] === code;
}

/** What is sent: only fields that belong to what was chosen. */
export function sent(tool: Tool, values: Values): Values {
  return Object.fromEntries(
    tool.fields.flatMap((field) => {
      const typed = values[field.name];
      return typed === undefined || !belongs(field, values) ? [] : [[field.name, typed]];
    }),
  );
}

const NUMERIC = new Set<Field["kind"]>([
  "length",
  "torque",
  "force",
  "pressure",
  "temperature",
  "angle",
  "minutes",
  "number",
  "count",
  "money",
  "stack",
]);

/** One figure that the strip asks for. */
export interface Slot {
  key: string;
  field: Field;
  /** place in a list of readings; null for a single figure */
  index: number | null;
  label: string;
  /** how it stands in the list of readings */
  short: string;
}

/** Everything the strip asks for, in order: readings first as the tool lists them. */
export function slotsOf(tool: Tool, values: Values): Slot[] {
  return tool.fields
    .filter((field) => field.section === "readings" && NUMERIC.has(field.kind) && field.columns.length === 0)
    .filter((field) => belongs(field, values))
    .flatMap((field): Slot[] => {
      if (!field.many && !field.angles)
        return [{ key: field.name, field, index: null, label: field.label, short: field.label }];
      const typed = values[field.name];
      const filled = Array.isArray(typed) ? typed.length : 0;
      const [fewest = 1, most = 1] = field.many ?? [];
      const count = field.angles || Math.min(most, Math.max(fewest, filled + 1));
      return Array.from({ length: count }, (_, index) => ({
        key: `${field.name}[${index}]`,
        field,
        index,
        label: `${field.label}, ${placeOf(field, index)}`,
        short: field.angles ? placeOf(field, index) : `${field.label}, ${placeOf(field, index)}`,
      }));
    });
}

function placeOf(field: Field, index: number): string {
  if (field.angles) return `${angleOf(field, index)}°`;
  return field.places[index] ?? `reading ${index + 1}`;
}

/** What was typed at a slot. */
export function typedAt(values: Values, slot: Slot): string {
  const typed = values[slot.field.name];
  if (slot.index === null) return typeof typed === "string" ? typed : "";
  const one = Array.isArray(typed) ? typed[slot.index] : "";
  return typeof one === "string" ? one : "";
}

/** The values with another text at a slot; a list keeps its places, and loses what is empty at its end. */
export function putAt(values: Values, slot: Slot, text: string): Values {
  if (slot.index === null) return { ...values, [slot.field.name]: text };
  const before = values[slot.field.name];
  const list = Array.isArray(before) ? before.map((one) => (typeof one === "string" ? one : "")) : [];
  while (list.length <= slot.index) list.push("");
  list[slot.index] = text;
  while (list.length > 0 && list.at(-1) === "") list.pop();
  return { ...values, [slot.field.name]: list };
}

/** Letters for plates, so that a pack is typed as fast as it is taken apart. */
const PLATES: Record<string, Row> = {
  f: { kind: "friction", keyed: "gear" },
  s: { kind: "steel", keyed: "case" },
  w: { kind: "wave", keyed: "case" },
  h: { kind: "shim", keyed: "none" },
};

/** A pack typed by letters, such as "s f s f s"; null when a letter is none. */
export function plates(text: string): Row[] | null {
  const letters = Array.from(text.toLowerCase().replace(/[\s,;]+/g, ""));
  const found = letters.map((letter) => PLATES[letter]);
  return found.every((one) => one !== undefined) ? found.map((one) => ({ ...one })) : null;
}
