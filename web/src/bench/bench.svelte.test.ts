import { flushSync } from "svelte";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { BenchOnScreen } from "./bench.svelte";
import { stubServer, type Sent } from "../test/stub-server";
import { Outbox, type Keeper } from "./outbox";

const kept = new Map<string, string>();
const drawer: Keeper = {
  getItem: (key) => kept.get(key) ?? null,
  setItem: (key, value) => void kept.set(key, value),
  removeItem: (key) => void kept.delete(key),
  settled: () => disk,
};
/** When the disk has all. */
let disk = Promise.resolve();

interface Taken {
  client_id: string;
  typed: string;
  angle_deg: number;
  sure: boolean;
}

/** A server that answers as it is told, and remembers what reached it. */
class Server {
  got: Taken[] = [];
  struck: string[] = [];
  answers: (
    | "take"
    | "lose"
    | "lose answer"
    | "refuse"
    | "ask"
    | "stumble"
    | "away"
    | "late"
    | "signed out"
    | "other"
    | "stale"
  )[] = [];

  bench() {
    const readings = this.got.map((one) => ({
      id: one.client_id,
      angle_deg: one.angle_deg,
      typed: one.typed,
      struck: this.struck.includes(one.client_id) ? { reason: "mistyped" } : null,
    }));
    return { positions_deg: [0, 90, 180, 270], trials: [{ id: "t1", number: 1, readings }] };
  }

  answer(request: Sent): Response {
    if (request.method === "GET") return Response.json(this.bench());
    const striking = /readings\/(.+)\/strike-out/.exec(request.path)?.[1];
    if (striking !== undefined) {
      this.struck.push(striking);
      return Response.json(this.bench(), { status: 201 });
    }
    const sent = request.body as unknown as Taken;
    const answer = this.answers.shift() ?? "take";
    if (answer === "lose") throw new TypeError("network");
    if (answer === "stumble") return new Response("oh", { status: 500 });
    if (answer === "late") return new Response("took too long", { status: 408 });
    if (answer === "away") return new Response("nobody there", { status: 503 });
    const error = { code: "bad_input", message: "No.", field: "typed" };
    if (answer === "signed out")
      return Response.json({ error: { ...error, code: "signed_out" } }, { status: 401 });
    if (answer === "other")
      return Response.json(
        { error: { ...error, code: "other_person", message: "Isla's." } },
        { status: 409 },
      );
    if (answer === "stale")
      return Response.json(
        { error: { ...error, code: "stale_page", message: "Load it again." } },
        { status: 403 },
      );
    if (answer === "refuse") return Response.json({ error }, { status: 422 });
    if (answer === "ask") {
      const choices = [{ label: "0.21 mm", typed: "0.21 mm", sure: true }];
      return Response.json(
        { error, question: { code: "which_unit", text: "Which?", choices } },
        { status: 422 },
      );
    }
    if (!this.got.some((one) => one.client_id === sent.client_id)) this.got.push(sent);
    if (answer === "lose answer") throw new TypeError("network");
    return Response.json(this.bench(), { status: 201 });
  }
}

let server = new Server();
stubServer((sent) => server.answer(sent));
const { BenchOnScreen: Bench } = await import("./bench.svelte");

describe("readings at the bench", () => {
  let on: BenchOnScreen;

  beforeEach(async () => {
    vi.useFakeTimers();
    kept.clear();
    disk = Promise.resolve();
    server = new Server();
    on = new Bench("job", new Outbox("job", drawer));
    await on.load();
    await vi.advanceTimersByTimeAsync(1);
  });
  afterEach(() => {
    on.stop();
    vi.useRealTimers();
  });

  async function settle(ms = 10) {
    await vi.advanceTimersByTimeAsync(ms);
    flushSync();
  }

  it("go out and the next position is asked for", async () => {
    expect(on.position).toBe(0);
    on.take("20");
    await settle();
    expect(server.got.map((one) => one.typed)).toEqual(["20"]);
    expect(on.position).toBe(90);
    expect(on.waiting).toEqual([]);
  });
  it("go round once more when they are read again, past what has a second one already", async () => {
    for (const typed of ["20", "21", "22", "21"]) on.take(typed);
    await settle();
    expect([on.position, on.readThisRound]).toEqual([null, 4]);
    on.picked = 90;
    on.take("22");
    on.roundAgain();
    expect([on.position, on.rounds, on.readThisRound]).toEqual([0, 2, 1]);
    for (const typed of ["20", "21", "22"]) on.take(typed);
    await settle();
    expect(server.got.map((one) => one.angle_deg)).toEqual([0, 90, 180, 270, 90, 0, 180, 270]);
    expect([on.position, on.readThisRound]).toEqual([null, 4]);
  });
  it("wait while the connection is lost, in order, and the work goes on", async () => {
    server.answers = ["lose", "lose"];
    for (const typed of ["20", "21", "22"]) on.take(typed);
    await settle();
    expect(on.lost).toBe(true);
    expect(on.position).toBe(270);
    expect(on.waiting.length).toBe(3);
    await settle(6000);
    expect(server.got.map((one) => [one.angle_deg, one.typed])).toEqual([
      [0, "20"],
      [90, "21"],
      [180, "22"],
    ]);
    expect(on.lost).toBe(false);
  });
  it("are said to be saved only once the disk has them", async () => {
    server.answers = ["lose", "lose"];
    let written = () => {};
    disk = new Promise((done) => (written = done));
    on.take("20");
    await settle();
    expect([on.saving, on.waiting.length]).toEqual([true, 1]);
    written();
    await settle();
    expect([on.saving, on.waiting.length, on.lost]).toEqual([false, 1, true]);
  });
  it("that the disk gives back late go out as well", async () => {
    let back = () => {};
    disk = new Promise((done) => (back = done));
    const again = new Bench("job", new Outbox("job", drawer));
    await again.load();
    await settle();
    new Outbox("job", drawer).add({ trial_id: "t1", angle_deg: 0, typed: "23", sure: false });
    back();
    await settle();
    again.stop();
    expect(server.got.map((one) => one.typed)).toEqual(["23"]);
  });
  it("are not doubled when only the answer was lost", async () => {
    server.answers = ["lose answer"];
    on.take("20");
    await settle(6000);
    expect(server.got.length).toBe(1);
    expect(on.waiting).toEqual([]);
  });
  it("are kept through an ended login and a server that stumbles", async () => {
    server.answers = ["signed out", "stumble"];
    on.take("20");
    await settle(9000);
    expect(server.got.map((one) => one.typed)).toEqual(["20"]);
  });
  it("that are refused stand in the strip again, with the sentence, at their position", async () => {
    server.answers = ["refuse"];
    on.take("abc");
    await settle();
    expect([on.refusedText, on.wrong, on.position]).toEqual(["abc", "No.", 0]);
    expect(on.waiting).toEqual([]);
  });
  it("that are asked about wait beside the strip, and what is typed next goes on", async () => {
    server.answers = ["ask"];
    on.take("0.21");
    await settle();
    expect([on.asked?.waiting.typed, on.position]).toEqual(["0.21", 90]);
    on.take("20");
    await settle();
    expect(server.got.map((one) => [one.typed, one.angle_deg])).toEqual([["20", 90]]);
    const choice = on.asked?.question.choices[0];
    if (choice) on.answer(choice);
    await settle();
    expect(server.got.map((one) => [one.typed, one.angle_deg, one.sure])).toContainEqual([
      "0.21 mm",
      0,
      true,
    ]);
    expect([on.asked, on.answered?.kind, on.answered?.said]).toEqual([null, "recorded", choice?.label]);
  });
  it("are asked about again when the answer is taken back", async () => {
    server.answers = ["ask"];
    on.take("0.21");
    await settle();
    const choice = on.asked?.question.choices[0];
    if (choice) on.answer(choice);
    await settle();
    const stored = server.got.at(-1)?.client_id;
    server.answers = ["ask"];
    await on.takeBackAnswer();
    await settle();
    expect(server.struck).toEqual([stored]);
    expect([on.asked?.waiting.typed, on.asked?.waiting.angle_deg]).toEqual(["0.21", 0]);
  });
  it("just taken need no reason to be struck out, older ones and somebody else's do", async () => {
    on.take("20");
    await settle();
    expect(on.lastReading()?.mistyped).toBe(true);
    await settle(10_001);
    expect(on.lastReading()?.mistyped).toBe(false);
    server.got.push({ client_id: "somebody-else", typed: "19", angle_deg: 90, sure: false });
    on.take("21");
    await settle();
    expect(on.lastReading()?.mistyped).toBe(true);
    server.got.push({ client_id: "somebody-again", typed: "18", angle_deg: 270, sure: false });
    await on.load();
    expect(on.lastReading()?.mistyped).toBe(false);
  });
  it("can be discarded instead of answered, and that can be taken back", async () => {
    server.answers = ["ask"];
    on.take("0.21");
    await settle();
    on.discard();
    expect([on.asked, on.waiting.length, on.position, on.answered?.kind]).toEqual([null, 0, 0, "discarded"]);
    server.answers = ["ask"];
    await on.takeBackAnswer();
    await settle();
    expect([on.asked?.waiting.typed, server.got]).toEqual(["0.21", []]);
  });

  it("of another person wait for them, and what follows goes on", async () => {
    server.answers = ["lose"];
    on.take("20");
    await settle();
    on.take("21");
    server.answers = ["other", "take"];
    await settle(3000);
    expect(server.got.map((one) => one.typed)).toEqual(["21"]);
    expect(on.waiting.map((one) => one.typed)).toEqual(["20"]);
    expect(on.held).toBe("Isla's.");
  });
  it("sent from a page without its token are kept until it is loaded again", async () => {
    server.answers = ["stale"];
    on.take("20");
    await settle(3000);
    expect([on.held, on.waiting.map((one) => one.typed), on.aside, on.refusedText]).toEqual([
      "Load it again.",
      ["20"],
      [],
      null,
    ]);
  });
  it("that are refused in a row are all kept, with their sentence", async () => {
    server.answers = ["lose"];
    for (const typed of ["-1", "-2", "22"]) on.take(typed);
    await settle();
    server.answers = ["refuse", "refuse", "take"];
    await settle(3000);
    expect(server.got.map((one) => one.typed)).toEqual(["22"]);
    expect(on.aside.map((one) => [one.waiting.typed, one.text])).toEqual([
      ["-1", "No."],
      ["-2", "No."],
    ]);
    const first = on.aside[0];
    if (first) on.retypeAside(first);
    expect([on.refusedText, on.picked, on.aside.length]).toEqual(["-1", 0, 1]);
  });
  it("wait in order through an outage, however long, and none is set aside", async () => {
    server.answers = ["lose", ...Array<"away">(20).fill("away"), "take"];
    on.take("20");
    on.take("21");
    await settle(70_000);
    expect(server.got.map((one) => one.typed)).toEqual(["20", "21"]);
    expect([on.aside, on.waiting]).toEqual([[], []]);
  });
  it("that make the server stumble every time do not keep the others back for ever", async () => {
    server.answers = ["lose"];
    on.take("20");
    on.take("21");
    await settle();
    server.answers = ["stumble", "stumble", "stumble", "stumble", "take", "stumble"];
    await settle(15_000);
    expect(server.got.map((one) => one.typed)).toEqual(["21"]);
    expect(on.aside.map((one) => one.waiting.typed)).toEqual(["20"]);
  });
  it("are all kept while the server stumbles over every one of them", async () => {
    server.answers = ["lose"];
    on.take("20");
    on.take("21");
    await settle();
    server.answers = Array.from({ length: 16 }, () => "stumble" as const);
    await settle(60_000);
    expect(server.got.map((one) => one.typed).sort()).toEqual(["20", "21"]);
    expect([on.aside, on.waiting]).toEqual([[], []]);
  });
  it("wait when the door took too long over them", async () => {
    server.answers = ["late"];
    on.take("20");
    await settle(6000);
    expect([server.got.map((one) => one.typed), on.wrong]).toEqual([["20"], null]);
  });
});

describe("what to do next", () => {
  let on: BenchOnScreen;
  const asked: string[] = [];
  let bench: Record<string, unknown> = {};
  let answers: Map<string, (sent: Sent) => Response> = new Map();
  const trial = { id: "t1", number: 1, readings: [] };

  beforeEach(async () => {
    vi.useFakeTimers();
    kept.clear();
    asked.length = 0;
    bench = { positions_deg: [0], trials: [trial] };
    answers = new Map();
    vi.spyOn(server, "answer").mockImplementation((sent) => {
      const { path } = sent;
      asked.push(`${sent.method} ${path.replace("/api/v1", "")}`);
      const own = answers.get(path.split("/").at(-1) ?? "");
      if (own) return own(sent);
      if (path.endsWith("/advice")) return Response.json({ kind: "move", text: "first" });
      return Response.json(bench, { status: sent.method === "GET" ? 200 : 201 });
    });
    on = new Bench("job", new Outbox("job", drawer));
    await on.load();
  });
  afterEach(() => {
    on.stop();
    vi.restoreAllMocks();
    vi.useRealTimers();
  });
  const advices = () => asked.filter((one) => one.endsWith("/advice")).length;

  it("is asked for a moment after the bench was shown, once", async () => {
    expect(on.thinking).toBe(true);
    await vi.advanceTimersByTimeAsync(300);
    expect([advices(), on.thinking, on.advice?.text]).toEqual([1, false, "first"]);
    await on.load();
    await vi.advanceTimersByTimeAsync(300);
    expect(advices()).toBe(1); // nothing has changed
  });
  it("is asked for anew when the bench has changed, and an older answer is not shown", async () => {
    await vi.advanceTimersByTimeAsync(300);
    let release: (value: Response) => void = () => undefined;
    answers.set("advice", () => new Promise<Response>((done) => (release = done)) as unknown as Response);
    bench = { ...bench, trials: [trial, { ...trial, id: "t2", number: 2 }] };
    await on.load();
    await vi.advanceTimersByTimeAsync(300);
    const slow = release;
    answers.set("advice", () => Response.json({ kind: "move", text: "newest" }));
    bench = { ...bench, trials: [trial, { ...trial, id: "t3", number: 3 }] };
    await on.load();
    await vi.advanceTimersByTimeAsync(300);
    slow(Response.json({ kind: "move", text: "stale" }));
    await vi.advanceTimersByTimeAsync(10);
    expect([on.advice?.text, on.thinking]).toEqual(["newest", false]);
  });
  it("is not waited for after the page is left", async () => {
    on.stop();
    await vi.advanceTimersByTimeAsync(1000);
    expect(advices()).toBe(0);
  });

  it("comes back as a sentence when something is not kept, and the form has it alone", async () => {
    answers.set("torques", () =>
      Response.json(
        { error: { code: "bad_input", message: "No such unit.", field: "typed" } },
        { status: 422 },
      ),
    );
    const torque = {
      what: "pinion",
      typed: "2 pigs",
      radius: "",
      bearings: "new",
      seal: "absent",
      seal_drag: "",
    } as const;
    expect(await on.takeTorque("t1", torque)).toBe("No such unit.");
    expect([on.wrong, on.busy]).toEqual([null, false]);
  });
  it("keeps one id for the same content until it is answered, and a new one after", async () => {
    const ids: string[] = [];
    answers.set("patterns", (sent) => {
      ids.push(String((sent.body as { client_id?: string }).client_id));
      if (ids.length === 1) throw new TypeError("network");
      return Response.json(bench, { status: 201 });
    });
    const patch = {
      flank: "drive",
      u: 0.5,
      v: 0.5,
      length: 0.4,
      height: 0.4,
      tilt_deg: 0,
      runs_off: [],
      photo: null,
      photo_place: null,
      note: "",
    } as const;
    const own = { ...patch, runs_off: [] };
    expect(await on.takePattern("t1", own)).toMatch(/connection is lost/);
    expect(await on.takePattern("t1", own)).toBeNull();
    expect(await on.takePattern("t1", own)).toBeNull();
    expect(ids[0]).toBe(ids[1]);
    expect(ids[2]).not.toBe(ids[1]);
    expect(await on.takePattern("t1", { ...own, u: 0.6 })).toBeNull();
    expect(new Set(ids).size).toBe(3);
  });
  it("begins a trial after the one that is shown, with all that is not said left as usual", async () => {
    let sent: unknown;
    answers.set("trials", (one) => {
      sent = one.body;
      return Response.json(bench, { status: 201 });
    });
    expect(await on.begin({ ring_side: "4.5 mm", far_side: "4.6 mm" })).toBe(true);
    expect(sent).toMatchObject({
      after: 1,
      ring_side: "4.5 mm",
      preload_part: "nothing",
      bearings: "final",
      is_final: false,
    });
  });
});
