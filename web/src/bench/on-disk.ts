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
let opened: Promise<IDBPDatabase<Kept>> | null = null;
let restoring = Promise.resolve();
/** The last of the writes to IndexedDB, which end in the order they were begun. */
let mirroring = Promise.resolve();

function db(): Promise<IDBPDatabase<Kept>> {
  opened ??= openDB<Kept>(NAME, 1, {
    upgrade: (made) => void made.createObjectStore("lists"),
    terminated: () => (opened = null),
  });
  return opened;
}

async function mirror(key: string, value: string | null): Promise<void> {
  try {
    const tx = (await db()).transaction("lists", "readwrite", { durability: "strict" });
    await Promise.all([value === null ? tx.store.delete(key) : tx.store.put(value, key), tx.done]);
  } catch {
    // a browser that lends no IndexedDB still has the other copy
  }
}

export const onDisk: Keeper = {
  getItem: (key) => localStorage.getItem(key),
  setItem: (key, value) => {
    localStorage.setItem(key, value);
    mirroring = mirror(key, value);
  },
  removeItem: (key) => {
    localStorage.removeItem(key);
    mirroring = mirror(key, null);
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
  try {
    const tx = (await db()).transaction("lists");
    const [keys, values] = await Promise.all([tx.store.getAllKeys(), tx.store.getAll()]);
    keys.forEach((key, at) => {
      const here = listOf(localStorage.getItem(key));
      const known = new Set(here.map(idOf));
      const lost = listOf(values[at] ?? null).filter((one) => !known.has(idOf(one)));
      // what was lost is what was written last; a write that came in between had put only its own on the disk
      if (lost.length > 0) onDisk.setItem(key, JSON.stringify([...here, ...lost]));
    });
  } catch {
    // none there, or not readable: the page goes on with what it has
  }
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
