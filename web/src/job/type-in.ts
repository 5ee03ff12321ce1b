import type { Step } from "../api/client";

/** What somebody typed in for a step. */
export interface Typed {
  done: boolean;
  values: Record<string, string>;
  way: string;
  reason: string;
  note: string;
}

/** Whether enough was typed in for a step to be saved. */
export function filled(step: Pick<Step, "act" | "missing" | "measure" | "asks">, typed: Typed): boolean {
  if (step.act === "choose") return typed.way !== "";
  if (step.act === "clock" || step.act === "wait" || step.missing !== null || step.measure === "gear_set")
    return false;
  if (step.act === "read" || step.act === "count") {
    const given = (name: string) => (typed.values[name] ?? "").trim() !== "";
    // a step whose values may all be left empty is saved once any of them is there
    return (
      step.asks.some((ask) => given(ask.name)) && step.asks.every((ask) => ask.may_skip || given(ask.name))
    );
  }
  return typed.done;
}
