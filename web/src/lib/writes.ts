import { ask, sentence, type Answer } from "../api/client";
import type { Envelope } from "./envelope";
import type { UnansweredIds } from "./ids";

type Call<T> = Promise<{ data?: T | undefined; error?: unknown; response: Response }>;

/** One write; the same content sent again goes in the same envelope while it has no answer. */
export async function writeOnce<Body extends object, T>(
  ids: UnansweredIds,
  what: string,
  body: Body,
  call: (body: Body & Envelope) => Call<T>,
): Promise<Answer<T>> {
  const key = `${what} ${JSON.stringify(body)}`;
  const answer = await ask(call({ ...body, ...ids.envelope(key) }));
  ids.answered(key, answer);
  return answer;
}

/** The same; null when it was taken, else the sentence. */
export async function sendOnce<Body extends object>(
  ids: UnansweredIds,
  body: Body,
  call: (body: Body & Envelope) => Call<unknown>,
): Promise<string | null> {
  const answer = await writeOnce(ids, "", body, call);
  return answer.kind === "done" ? null : sentence(answer);
}
