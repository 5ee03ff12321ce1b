import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { stubServer, type Sent } from "../test/stub-server";
import type { DiffBench } from "./bench.svelte";

const kept = new Map<string, string>();
const drawer = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
};
const column = { needed: true, unit: "mm", options: [], hint: "", kind: "length" } as const;
const field = (name: string, begin = "") => ({
  ...column,
  name,
  label: name,
  begin,
  section: "readings",
  many: null,
  places: [],
  angles: 0,
  columns: [],
  when: null,
  source: "",
  rows: [],
});
const tool = (code: string, ...fields: ReturnType<typeof field>[]) => ({
  code,
  group: "Gears",
  title: code,
  about: "",
  computation: "halfshaft.home",
  cautions: [],
  fields,
});
const desk = {
  tools: [tool("half_shaft", field("now"), field("before", "2 mm")), tool("rollers", field("roller"))],
  gauges: [],
  results: [],
  clocks: [],
};
const answer = (code: string) => ({
  tool: code,
  wrong: [{ field: "now", text: "No." }],
  missing: [],
  question: null,
  answer: null,
  verdict: null,
  lines: [],
  reasons: [],
});

let status = 200;
let got: Sent[] = [];
const json = (body: unknown, code: number) =>
  new Response(JSON.stringify(body), { status: code, headers: { "Content-Type": "application/json" } });

async function bench(work: string | null): Promise<DiffBench> {
  const { DiffBench } = await import("./bench.svelte");
  const made = new DiffBench(work, drawer);
  await made.load("half_shaft");
  await vi.advanceTimersByTimeAsync(300);
  return made;
}
const asks = () => got.filter((one) => one.path.endsWith("/diff-work"));

beforeEach(() => {
  vi.resetModules();
  vi.useFakeTimers();
  kept.clear();
  status = 200;
  got = stubServer((sent) => {
    if (sent.path.endsWith("/diff-work")) return json(answer(String(sent.body.tool)), 200);
    if (sent.path.endsWith("/diff-results"))
      return status === 200
        ? json({}, 201)
        : json({ error: { code: "bad_input", message: "Still missing: Gap.", field: "values" } }, status);
    return json(desk, 200);
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("the Diff bench", () => {
  it("asks once for figures that follow each other, with what stands there to begin with", async () => {
    const on = await bench("w1");
    const before = asks().length;
    on.set("now", "4");
    on.set("now", "4.9");
    await vi.advanceTimersByTimeAsync(300);
    expect(
      asks()
        .slice(before)
        .map((one) => one.body.values),
    ).toEqual([{ now: "4.9", before: "2 mm" }]);
    expect(on.slip("now")).toBe("No.");
    expect(on.slip("before")).toBeNull();
  });

  it("keeps what was typed at a tool of this work while another is in hand, and over a reload", async () => {
    const on = await bench("w1");
    on.set("now", "4.9");
    on.pick("rollers");
    expect(on.values).toEqual({ roller: "" });
    const again = await bench("w1");
    expect(again.values.now).toBe("4.9");
    expect((await bench("w2")).values.now).toBe("");
  });

  it("lends nothing from one vehicle to the next where no job is open", async () => {
    (await bench(null)).set("now", "4.9");
    expect(kept.size).toBe(0);
    expect((await bench(null)).values.now).toBe("");
  });

  it("says why an answer was not saved, and saves it to its step", async () => {
    const on = await bench("w1");
    status = 422;
    expect(await on.keep("Left", "half_shaft_home")).toBe("Still missing: Gap.");
    status = 200;
    expect(await on.keep("Left", "half_shaft_home")).toBeNull();
    const saved = got.filter((one) => one.path.endsWith("/work/w1/diff-results"));
    expect(saved.map((one) => [one.body.tool, one.body.step, one.body.title])).toEqual([
      ["half_shaft", "half_shaft_home", "Left"],
      ["half_shaft", "half_shaft_home", "Left"],
    ]);
    expect(saved[0]?.body.client_id).not.toBe(saved[1]?.body.client_id);
  });

  it("opens a kept answer with what was typed for it", async () => {
    const on = await bench("w1");
    on.open("rollers", { roller: "2.5 mm" }, "dial");
    expect([on.code, on.values.roller, on.gauge]).toEqual(["rollers", "2.5 mm", "dial"]);
  });
});
