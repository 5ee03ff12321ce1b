import type { Question } from "../api/client";
import { newId } from "../lib/ids";

/** A reading on its way: typed, not yet confirmed by the server. */
export interface Waiting {
  client_id: string;
  trial_id: string;
  angle_deg: number;
  typed: string;
  sure: boolean;
}

/** What came back for a reading that was sent. */
export type Sent =
  | { kind: "taken" }
  | { kind: "lost" }
  | { kind: "asked"; question: Question }
  | { kind: "refused"; text: string };

export interface Keeper {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

/**
 * Readings wait here until the server has them, in order, and outlive a closed page.
 * Each keeps its id, so that sending it again after a lost answer writes nothing twice.
 */
export class Outbox {
  #key: string;
  #keep: Keeper;

  constructor(jobId: string, keep: Keeper) {
    this.#key = `amber.readings.${jobId}`;
    this.#keep = keep;
  }

  all(): Waiting[] {
    try {
      const found: unknown = JSON.parse(this.#keep.getItem(this.#key) ?? "[]");
      return Array.isArray(found) ? (found as Waiting[]) : [];
    } catch {
      return []; // somebody else wrote there; nothing of ours is in it
    }
  }

  add(reading: Omit<Waiting, "client_id">): Waiting {
    const waiting = { ...reading, client_id: newId() };
    this.#write([...this.all(), waiting]);
    return waiting;
  }

  change(client_id: string, typed: string, sure: boolean): void {
    this.#write(this.all().map((one) => (one.client_id === client_id ? { ...one, typed, sure } : one)));
  }

  drop(client_id: string): void {
    this.#write(this.all().filter((one) => one.client_id !== client_id));
  }

  #write(all: Waiting[]): void {
    if (all.length === 0) this.#keep.removeItem(this.#key);
    else this.#keep.setItem(this.#key, JSON.stringify(all));
  }
}
