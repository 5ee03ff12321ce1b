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

/** Ids of writes whose answer was lost: trying again sends the same one, so nothing is written twice. */
export class UnansweredIds {
  #ids = new Map<string, string>();

  /** The id to send `what` with: that of the try before while it has no answer, else a new one. */
  idFor(what: string): string {
    const id = this.#ids.get(what) ?? newId();
    this.#ids.set(what, id);
    return id;
  }

  /** Done and refused are answers; after them the same content is a new write. */
  answered(what: string, kind: "done" | "refused" | "lost"): void {
    if (kind !== "lost") this.#ids.delete(what);
  }
}
