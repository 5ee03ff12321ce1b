import type { Question } from "../api/client";
import { written, type Envelope } from "../lib/envelope";

/** A reading on its way: typed, not yet confirmed by the server; whose it is and in which unit stays with it. */
export interface Waiting extends Envelope {
  trial_id: string;
  angle_deg: number;
  typed: string;
  sure: boolean;
}

/** A reading that the server will not take, with its sentence. */
export interface Aside {
  waiting: Waiting;
  text: string;
}

/** What came back for a reading that was sent. */
export type Sent =
  | { kind: "taken" }
  | { kind: "lost" }
  | { kind: "stumbled" }
  | { kind: "passed by" }
  | { kind: "spoilt"; text: string }
  | { kind: "asked"; question: Question }
  | { kind: "held"; text: string }
  | { kind: "refused"; text: string };

export interface Keeper {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
  /** Done once all that was set is on the disk, and all that the disk had before is back. */
  settled(): Promise<void>;
}

/**
 * Readings wait here until the server has them, in order, and outlive a closed page.
 * Each keeps its envelope, so that sending it again after a lost answer writes nothing twice and reads no number in another's unit.
 * What the server can never take is set aside with its sentence, and what follows goes on.
 */
export class Outbox {
  #key: string;
  #asideKey: string;
  #keep: Keeper;

  constructor(workId: string, keep: Keeper) {
    this.#key = `amber.readings.${workId}`;
    this.#asideKey = `amber.aside.${workId}`;
    this.#keep = keep;
  }

  all(): Waiting[] {
    // readings of a release before had no envelope beside their id: it is made up once, and kept
    return this.#list<Waiting>(this.#key).map((one) =>
      one.person === undefined ? { ...written(), ...one } : one,
    );
  }

  aside(): Aside[] {
    return this.#list<Aside>(this.#asideKey);
  }

  /** Done once what waits outlives a battery that comes out. */
  settled(): Promise<void> {
    return this.#keep.settled();
  }

  add(reading: Omit<Waiting, keyof Envelope>): Waiting {
    const waiting = { ...reading, ...written() };
    this.#write(this.#key, [...this.all(), waiting]);
    return waiting;
  }

  /** What was asked about is another content now, so it is another write: its id. */
  change(client_id: string, typed: string, sure: boolean): string {
    const id = written().client_id;
    const changed = (one: Waiting) => ({ ...one, client_id: id, typed, sure });
    this.#write(
      this.#key,
      this.all().map((one) => (one.client_id === client_id ? changed(one) : one)),
    );
    return id;
  }

  drop(client_id: string): void {
    this.#write(
      this.#key,
      this.all().filter((one) => one.client_id !== client_id),
    );
  }

  setAside(waiting: Waiting, text: string): void {
    this.drop(waiting.client_id);
    this.#write(this.#asideKey, [...this.aside(), { waiting, text }]);
  }

  dropAside(client_id: string): void {
    this.#write(
      this.#asideKey,
      this.aside().filter((one) => one.waiting.client_id !== client_id),
    );
  }

  #list<T>(key: string): T[] {
    try {
      const found: unknown = JSON.parse(this.#keep.getItem(key) ?? "[]");
      return Array.isArray(found) ? (found as T[]) : [];
    } catch {
      return []; // somebody else wrote there; nothing of ours is in it
    }
  }

  #write(key: string, all: unknown[]): void {
    if (all.length === 0) this.#keep.removeItem(key);
    else this.#keep.setItem(key, JSON.stringify(all));
  }
}
