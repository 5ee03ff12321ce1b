import { describe, expect, it } from "vitest";

import { UnansweredIds } from "./ids";
import { sendOnce } from "./writes";

type Reply = "done" | "refused" | "lost";

/** A server that remembers what it was sent, and answers as it is told. */
function server(...replies: Reply[]) {
  const got: { client_id: string; title: string }[] = [];
  const call = async (body: { client_id: string; title: string }) => {
    got.push(body);
    const reply = replies.shift() ?? "done";
    if (reply === "lost") throw new TypeError("network");
    const error = { error: { code: "bad_input", message: "Give it a title.", field: "title" } };
    return reply === "done"
      ? { data: {}, response: new Response("{}", { status: 201 }) }
      : { error, response: new Response("{}", { status: 422 }) };
  };
  return { got, call };
}

describe("one write", () => {
  it("carries its content and an id, and says nothing when it was taken", async () => {
    const { got, call } = server();
    expect(await sendOnce(new UnansweredIds(), { title: "Winter" }, call)).toBeNull();
    expect(got[0]).toMatchObject({ title: "Winter" });
    expect(got[0]?.client_id).toHaveLength(36);
  });
  it("sent again after a lost answer has the same id, and a new one once it was answered", async () => {
    const ids = new UnansweredIds();
    const { got, call } = server("lost", "lost", "done", "done");
    for (const said of ["The connection is lost", "The connection is lost", null, null]) {
      const sentence = await sendOnce(ids, { title: "Winter" }, call);
      if (said === null) expect(sentence).toBeNull();
      else expect(sentence).toContain(said);
    }
    const [first, second, third, fourth] = got.map((one) => one.client_id);
    expect([second, third]).toEqual([first, first]);
    expect(fourth).not.toBe(first);
  });
  it("with other content is another write, even while the first has no answer", async () => {
    const ids = new UnansweredIds();
    const { got, call } = server("lost", "done");
    await sendOnce(ids, { title: "Winter" }, call);
    await sendOnce(ids, { title: "Summer" }, call);
    expect(got[0]?.client_id).not.toBe(got[1]?.client_id);
  });
  it("that is refused comes back with the server's own sentence", async () => {
    const { call } = server("refused");
    expect(await sendOnce(new UnansweredIds(), { title: "" }, call)).toBe("Give it a title.");
  });
});
