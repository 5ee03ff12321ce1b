import type { operations } from "../api/schema";

type Question = operations["compute_quote_compare"]["requestBody"]["content"]["application/json"];

/** Ways as they are typed; money in the smallest unit. */
export interface Priced {
  hourly: number | null;
  ways: { name: string; minutes: number | null; parts: number | null; days: number | null }[];
}

/** What quote.compare is asked; null while there is nothing to price. */
export function questionOf(priced: Priced): Question | null {
  const given = priced.ways.filter(
    (one) => one.name.trim() !== "" && (one.minutes !== null || one.parts !== null),
  );
  if (priced.hourly === null || given.length === 0) return null;
  return {
    hourly: priced.hourly,
    ways: given.map((one) => ({
      name: one.name.trim(),
      minutes: one.minutes ?? 0,
      parts: one.parts === null ? [] : [{ name: "Parts", price: one.parts, count: 1 }],
      wait_days: one.days ?? 0,
    })),
  };
}

/** The ways of a question that was kept, to go on typing. */
export function pricedOf(kept: Record<string, unknown> | null): Priced {
  const question = kept as Question | null;
  return {
    hourly: question?.hourly ?? null,
    ways: (question?.ways ?? []).map((one) => ({
      name: one.name,
      minutes: one.minutes,
      parts: one.parts.length > 0 ? one.parts.reduce((sum, part) => sum + part.price * part.count, 0) : null,
      days: one.wait_days ?? null,
    })),
  };
}
