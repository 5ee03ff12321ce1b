import { describe, expect, it, vi } from "vitest";

import { ask, sentence, whenSignedOut } from "./client";

const reply = <T>(status: number, data?: T, error?: unknown) =>
  Promise.resolve({
    ...(data === undefined ? {} : { data }),
    error,
    response: new Response(null, { status }),
  });

const no = { code: "bad_input", message: "Not so.", field: "typed" };

describe("an answer", () => {
  it("is done with what came back", async () => {
    expect(await ask(reply(201, { number: 7 }))).toEqual({ kind: "done", value: { number: 7 } });
  });
  it("is refused with the server's sentence, its question and what is stored now", async () => {
    const question = { code: "which_unit", text: "Which?", choices: [] };
    const answer = await ask(reply(422, undefined, { error: no, question, current: { version: 3 } }));
    expect(answer).toEqual({
      kind: "refused",
      status: 422,
      refused: { ...no, question, current: { version: 3 } },
    });
    expect(answer.kind === "refused" && sentence(answer)).toBe("Not so.");
  });
  it("is lost when the server was not reached, or one in between says so", async () => {
    expect((await ask(Promise.reject(new TypeError("network")))).kind).toBe("lost");
    for (const status of [502, 503, 504]) expect((await ask(reply(status))).kind).toBe("lost");
    expect(sentence({ kind: "lost" })).toContain("What you typed is kept");
  });
  it("of a server that stumbles without a word still has a sentence", async () => {
    for (const error of [undefined, "<html>", null, {}]) {
      const answer = await ask(reply(500, undefined, error));
      expect(answer.kind === "refused" && answer.refused.message).toContain("What you typed is kept");
    }
  });
  it("that the login has ended is told once for all", async () => {
    const told = vi.fn();
    whenSignedOut(told);
    await ask(reply(401, undefined, { error: { ...no, code: "signed_out" } }));
    await ask(reply(401, undefined, { error: { ...no, code: "wrong_login" } }));
    expect(told).toHaveBeenCalledTimes(1);
  });
});
