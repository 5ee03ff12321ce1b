import { written, type Envelope } from "./envelope";

/** A client-made id: a retry with the same id writes nothing twice. */
export function newId(): string {
  if (typeof crypto.randomUUID === "function") return crypto.randomUUID();
  // without TLS on another host there is no randomUUID, but there are random bytes
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

/** How a write ended; a status of 500 and more is a server that stumbled, which says nothing of the write. */
export type Ended =
  { kind: "done" | "lost" } | { kind: "refused"; status: number; refused?: { code: string } };

/** Whether the server has said what became of a write. */
export function isAnswer(ended: Ended): boolean {
  if (ended.kind !== "refused") return ended.kind === "done";
  // a page without its login or its token was not heard out
  if (ended.status === 401 || ended.refused?.code === "stale_page") return false;
  return ended.status < 500 && ended.status !== 429 && ended.status !== 408; // 408 is the door's: the write took too long to come in
}

/** Envelopes of writes that have no answer yet: trying the same content again sends the same one, so nothing is written twice. */
export class UnansweredIds {
  #written = new Map<string, Envelope>();

  /** The envelope to send `what` in: that of the try before while it has no answer, else a new one. */
  envelope(what: string): Envelope {
    const kept = this.#written.get(what) ?? written();
    this.#written.set(what, kept);
    return kept;
  }

  /** What was done or refused is answered; after that the same content is a new write. */
  answered(what: string, ended: Ended): void {
    if (isAnswer(ended)) this.#written.delete(what);
  }
}
