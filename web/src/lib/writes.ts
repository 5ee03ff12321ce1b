import { ask, sentence } from "../api/client";
import type { UnansweredIds } from "./ids";

/** One write; the same content sent again carries the same id while it has no answer. Null when it was taken, else the sentence. */
export async function sendOnce<Body extends object>(
  ids: UnansweredIds,
  body: Body,
  call: (
    body: Body & { client_id: string },
  ) => Promise<{ data?: unknown; error?: unknown; response: Response }>,
): Promise<string | null> {
  const key = JSON.stringify(body);
  const answer = await ask(call({ ...body, client_id: ids.idFor(key) }));
  ids.answered(key, answer.kind);
  return answer.kind === "done" ? null : sentence(answer);
}
