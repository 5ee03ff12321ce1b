import type { Me, Schemas } from "../api/client";
import { newId } from "./ids";

/** What goes with every write: its id, who wrote it on which device, in which units, and when by this device's clock. */
export interface Envelope {
  client_id: string;
  person: string;
  device: string;
  length_unit: Schemas["MeOut"]["length_unit"];
  torque_unit: Schemas["MeOut"]["torque_unit"];
  written_at: string;
}

/** A body before it is put into its envelope. */
export type Unwritten<Body> = Omit<Body, keyof Envelope>;

const DEVICE_KEY = "amber.device";
let writer: Pick<Me, "username" | "length_unit" | "torque_unit"> | null = null;

/** Whose writes come from this screen from now on; the one who signed out last stays it while nobody is signed in. */
export function setWriter(me: Me | null): void {
  if (me !== null) writer = me;
}

/** This device's name: kept in the browser, made once. */
export function deviceName(): string {
  try {
    const kept = localStorage.getItem(DEVICE_KEY);
    if (kept) return kept;
    const made = `browser-${newId().slice(0, 8)}`;
    localStorage.setItem(DEVICE_KEY, made);
    return made;
  } catch {
    return ""; // a browser that keeps nothing has no name
  }
}

/** A new envelope: bare numbers in it are in the unit that its writer works in now. */
export function written(): Envelope {
  return {
    client_id: newId(),
    person: writer?.username ?? "",
    device: deviceName(),
    length_unit: writer?.length_unit ?? "hundredths_mm",
    torque_unit: writer?.torque_unit ?? "nm",
    written_at: new Date().toISOString(),
  };
}
