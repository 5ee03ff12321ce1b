import { openDB, type DBSchema, type IDBPDatabase } from "idb";

import type { Answer } from "../api/client";
import { written, type Envelope } from "../lib/envelope";
import { isAnswer } from "../lib/ids";

/** A write of the wall that lies in this browser until the server has answered it; with `wrong`, one that it will never take. */
export interface Queued {
  seq: number;
  work: string;
  what: "off" | "photo";
  key: string;
  body: Envelope & Record<string, unknown>;
  /** bytes of a picture; browsers differ in how well they keep a Blob */
  file: ArrayBuffer | null;
  wrong: string | null;
  /** what it was refused with, for programs */
  code: string | null;
}

interface Kept extends DBSchema {
  writes: { key: number; value: Queued; indexes: { work: string } };
}

const NAME = "amber-parts";
let opened: Promise<IDBPDatabase<Kept>> | null = null;

function db(): Promise<IDBPDatabase<Kept>> {
  opened ??= openDB<Kept>(NAME, 1, {
    upgrade: (made) =>
      void made
        .createObjectStore("writes", { keyPath: "seq", autoIncrement: true })
        .createIndex("work", "work"),
    terminated: () => (opened = null),
  });
  return opened;
}

/** What waits for one piece of work, in the order that it was written; what was refused for good too. */
export async function queued(work: string): Promise<Queued[]> {
  return (await db()).getAllFromIndex("writes", "work", work);
}

/** Keep writes together; they are kept once this resolves. */
export async function enqueue(
  work: string,
  writes: { what: Queued["what"]; key: string; body: Record<string, unknown>; file?: Blob }[],
): Promise<void> {
  const rows = await Promise.all(
    writes.map(async ({ what, key, body, file }) => ({
      work,
      what,
      key,
      body: { ...body, ...written() },
      file: file ? await file.arrayBuffer() : null,
      wrong: null,
      code: null,
    })),
  );
  const tx = (await db()).transaction("writes", "readwrite", { durability: "strict" });
  await Promise.all([...rows.map((row) => tx.store.add(row as unknown as Queued)), tx.done]);
}

/** Give up a write that the server will never take. */
export async function dropQueued(seq: number): Promise<void> {
  await (await db()).delete("writes", seq);
}

/**
 * Send what waits, in order, each once: another tab that sends already goes on alone. Stops at the first that finds no answer; what is
 * refused is kept with its sentence, and what follows goes on; so does what follows a write of somebody else, which waits for them.
 */
export async function flush<T>(
  work: string,
  send: (one: Queued) => Promise<Answer<T>>,
  onsent: (value: T) => void,
): Promise<"empty" | "lost" | "others" | "busy"> {
  const go = async (): Promise<"empty" | "lost" | "others"> => {
    const others: number[] = [];
    for (;;) {
      const next = (await queued(work)).find((one) => one.wrong === null && !others.includes(one.seq));
      if (next === undefined) return others.length > 0 ? "others" : "empty";
      const answer = await send(next);
      if (answer.kind === "done") {
        await dropQueued(next.seq);
        onsent(answer.value);
      } else if (answer.kind === "refused" && answer.refused.code === "other_person") {
        others.push(next.seq);
      } else if (answer.kind === "refused" && isAnswer(answer)) {
        await (
          await db()
        ).put("writes", { ...next, wrong: answer.refused.message, code: answer.refused.code });
      } else return "lost";
    }
  };
  // a page that is not served safely has no locks; there the unique id of each write keeps it single
  if (!("locks" in navigator)) return go();
  return navigator.locks.request(`amber-parts-${work}`, { ifAvailable: true }, (lock) =>
    lock === null ? ("busy" as const) : go(),
  );
}
