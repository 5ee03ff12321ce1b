import { openDB, type DBSchema, type IDBPDatabase } from "idb";

import type { Keeper } from "./outbox";

/**
 * What waits to be sent, in localStorage and in IndexedDB. localStorage is read and written at once, but reaches the disk seconds later:
 * a phone whose battery comes out loses what was typed last. What lies in IndexedDB is on the disk.
 */
interface Kept extends DBSchema {
  lists: { key: string; value: string };
}

const NAME = "amber-readings";
const PATIENCE_MS = 3000;
/** So often and so long apart it is tried: by then localStorage has reached the disk as well. */
const MOST_TRIES = 12;
const APART_MS = 500;
let opened: Promise<IDBPDatabase<Kept>> | null = null;
let restoring = Promise.resolve();
/** All writes to IndexedDB so far. */
let mirroring = Promise.resolve();

function db(): Promise<IDBPDatabase<Kept>> {
  opened ??= openDB<Kept>(NAME, 1, {
    upgrade: (made) => void made.createObjectStore("lists"),
    terminated: () => (opened = null),
  });
  return opened;
}

/** Until it succeeds: a database may not be to be had for a moment. A browser that lends none still has the other copy. */
async function insist(act: (kept: IDBPDatabase<Kept>) => Promise<unknown>): Promise<void> {
  for (let tried = 1; tried <= MOST_TRIES; tried += 1) {
    try {
      await act(await db());
      return;
    } catch {
      opened = null;
      await new Promise((done) => setTimeout(done, APART_MS));
    }
  }
}

/** A list as it stands by then, so that of two writes the later one is never undone; not before what the disk had is back. */
async function mirror(key: string): Promise<void> {
  await restoring;
  await insist(async (kept) => {
    const tx = kept.transaction("lists", "readwrite", { durability: "strict" });
    const value = localStorage.getItem(key);
    await Promise.all([value === null ? tx.store.delete(key) : tx.store.put(value, key), tx.done]);
  });
}

function mirrored(key: string): void {
  mirroring = Promise.all([mirroring, mirror(key)]).then(() => undefined);
}

export const onDisk: Keeper = {
  getItem: (key) => localStorage.getItem(key),
  setItem: (key, value) => {
    localStorage.setItem(key, value);
    mirrored(key);
  },
  removeItem: (key) => {
    localStorage.removeItem(key);
    mirrored(key);
  },
  settled: async () => {
    await restoring;
    await mirroring;
  },
};

/** Before a bench is shown: what only IndexedDB has goes back to where it is read. Nothing is taken away; what was sent before keeps its id. */
export async function bringBack(): Promise<void> {
  const late = new Promise<void>((done) => setTimeout(done, PATIENCE_MS));
  restoring = restore();
  await Promise.race([restoring, late]);
}

async function restore(): Promise<void> {
  await insist(async (kept) => {
    const tx = kept.transaction("lists");
    const [keys, values] = await Promise.all([tx.store.getAllKeys(), tx.store.getAll()]);
    keys.forEach((key, at) => {
      const here = listOf(localStorage.getItem(key));
      const known = new Set(here.map(idOf));
      const lost = listOf(values[at] ?? null).filter((one) => !known.has(idOf(one)));
      // what was lost is what was written last
      if (lost.length > 0) onDisk.setItem(key, JSON.stringify([...here, ...lost]));
    });
  });
}

function listOf(text: string | null): unknown[] {
  try {
    const found: unknown = JSON.parse(text ?? "[]");
    return Array.isArray(found) ? found : [];
  } catch {
    return [];
  }
}

/** Of a reading, or of one that was set aside. */
function idOf(one: unknown): string {
  const row = one as { client_id?: string; waiting?: { client_id?: string } };
  return row.client_id ?? row.waiting?.client_id ?? JSON.stringify(one);
}
