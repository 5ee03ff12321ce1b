import type { Bar } from "./drawings/WindowBar.svelte";

type Plain = Record<string, unknown>;

const number = (from: Plain, name: string): number | null => {
  const value = from[name];
  return typeof value === "number" ? value : null;
};
const list = (from: Plain, name: string): number[] => {
  const value = from[name];
  return Array.isArray(value) ? value.filter((one): one is number => typeof one === "number") : [];
};
const shown = (word: string, value: number | null) => (value === null ? [] : [{ word, value }]);

/** What the tools without a drawing of their own hold against a window; null for the others. */
export function barOf(tool: string, question: Plain, answer: Plain): Bar | null {
  switch (tool) {
    case "breakaway":
      return {
        values: [
          ...shown("read", number(answer, "torque_nm")),
          ...shown("expected", number(answer, "expected_nm")),
        ],
        min: number(question, "min_nm"),
        max: number(question, "max_nm"),
        unit: "Nm",
      };
    case "side_gear": {
      const plays = list(question, "plays_mm");
      return {
        values: plays.map((value, index) => ({
          word: plays.length > 1 ? `play ${index + 1}` : "play",
          value,
        })),
        min: number(question, "min_mm"),
        max: number(question, "max_mm"),
        unit: "mm",
      };
    }
    case "clearance":
      return {
        values: [
          ...shown("least", number(answer, "least_mm")),
          ...shown("greatest", number(answer, "greatest_mm")),
        ],
        min: number(question, "min_mm"),
        max: number(question, "max_mm"),
        unit: "mm",
      };
    case "hot_play":
      return {
        values: [
          ...shown("cold", number(question, "play_cold_mm")),
          ...shown("hot", number(answer, "play_hot_mm")),
        ],
        min: null,
        max: null,
        unit: "mm",
      };
    case "air_hold":
      return {
        values: shown("drop", number(answer, "drop_kpa")),
        min: null,
        max: number(question, "max_drop_kpa"),
        unit: "kPa",
      };
    case "heat": {
      const rises = answer.rises as { place: string; rise_k: number }[];
      return {
        values: rises.map((one) => ({ word: one.place, value: one.rise_k })),
        min: null,
        max: null,
        unit: "°C over the air",
      };
    }
    case "torque_estimate":
      return { values: shown("torque", number(answer, "torque_nm")), min: null, max: null, unit: "Nm" };
    default:
      return null;
  }
}
