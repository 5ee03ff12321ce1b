/** The one place where lengths in millimetres become what a person reads. Typed text is read by the server. */

export type LengthUnit = "thou" | "hundredths_mm" | "mm";

const MM_PER_THOU = 0.0254;

export const UNIT_NAMES: Record<LengthUnit, string> = {
  thou: "thou",
  hundredths_mm: "1/100 mm",
  mm: "mm",
};

function inMm(mm: number): string {
  return `${mm.toFixed(2)} mm`;
}

function inThou(mm: number): string {
  return `${(mm / MM_PER_THOU).toFixed(1)} thou`;
}

/** A length in the person's unit, at the step of the dial: "0.21 mm" or "8.3 thou". */
export function length(mm: number, unit: LengthUnit): string {
  return unit === "thou" ? inThou(mm) : inMm(mm);
}

/** The same length in the other system. */
export function otherLength(mm: number, unit: LengthUnit): string {
  return unit === "thou" ? inMm(mm) : inThou(mm);
}

/** The bare figure on the dial drawing. */
export function figure(mm: number, unit: LengthUnit): string {
  return unit === "thou" ? (mm / MM_PER_THOU).toFixed(1) : mm.toFixed(2);
}

/** The figure's unit. */
export function figureUnit(unit: LengthUnit): string {
  return unit === "thou" ? "thou" : "mm";
}

/** A length with what the instrument can tell: "0.20 ± 0.01 mm". */
export function withDoubt(mm: number, doubtMm: number, unit: LengthUnit): string {
  return `${figure(mm, unit)} ± ${figure(doubtMm, unit)} ${figureUnit(unit)}`;
}

/** A window: "0.13 to 0.20 mm", "up to 0.07 mm". */
export function window(least: number | null, greatest: number | null, unit: LengthUnit): string {
  if (least !== null && greatest !== null) return `${figure(least, unit)} to ${length(greatest, unit)}`;
  if (greatest !== null) return `up to ${length(greatest, unit)}`;
  return least !== null ? `from ${length(least, unit)}` : "no limit known";
}

/** A shim's thickness: shims are sold and marked in hundredths, so two or three places. */
export function shim(mm: number, unit: LengthUnit): string {
  if (unit === "thou") return inThou(mm);
  return `${Number.isInteger(Math.round(mm * 1000) / 10) ? mm.toFixed(2) : mm.toFixed(3)} mm`;
}

/** A stack as an addition: "4.60 + 0.05". */
export function stack(pieces: { thickness_mm: number; count: number }[], unit: LengthUnit): string {
  const parts = pieces.flatMap((piece) =>
    Array.from({ length: piece.count }, () => figureOf(piece.thickness_mm, unit)),
  );
  return parts.length > 0 ? parts.join(" + ") : "no shims";
}

/** A stack as it is typed into a form: "4.6 mm + 0.05 mm"; "none" when no piece lay there. */
export function typedStack(pieces: { thickness_mm: number; count: number }[]): string {
  const parts = pieces.flatMap((piece) =>
    Array.from({ length: piece.count }, () => `${piece.thickness_mm} mm`),
  );
  return parts.join(" + ") || "none";
}

function figureOf(mm: number, unit: LengthUnit): string {
  return shim(mm, unit).split(" ")[0] ?? "";
}

export type TorqueUnit = "nm" | "inlb";

const NM_PER_INLB = 0.112984829;

export const TORQUE_NAMES: Record<TorqueUnit, string> = { nm: "Nm", inlb: "in-lb" };

/** A torque in the person's unit. */
export function torqueShown(nm: number, unit: TorqueUnit): number {
  return unit === "inlb" ? nm / NM_PER_INLB : nm;
}

/** The bare figure of a rotating torque in the person's unit. */
export function torqueFigure(nm: number, unit: TorqueUnit): string {
  return torqueShown(nm, unit).toFixed(unit === "inlb" ? 1 : 2);
}

/** A rotating torque in the person's unit: "2.30 Nm" or "20.4 in-lb". */
export function torque(nm: number, unit: TorqueUnit): string {
  return `${torqueFigure(nm, unit)} ${TORQUE_NAMES[unit]}`;
}

/** What a bolt is tightened to, as a wrench is set: "88 Nm" or "779 in-lb". */
export function torqueSetting(nm: number, unit: TorqueUnit): string {
  return `${torqueShown(nm, unit).toFixed(unit === "nm" && nm < 20 ? 1 : 0)} ${TORQUE_NAMES[unit]}`;
}

/** A window of rotating torque. */
export function torqueWindow(
  range: { least: number | null; greatest: number | null } | null,
  unit: TorqueUnit,
): string {
  const { least = null, greatest = null } = range ?? {};
  if (least !== null && greatest !== null) return `${torqueFigure(least, unit)} to ${torque(greatest, unit)}`;
  if (greatest !== null) return `up to ${torque(greatest, unit)}`;
  return least !== null ? `from ${torque(least, unit)}` : "no limit known";
}

/** A length with its sign: "+0.05 mm". */
export function signed(mm: number, unit: LengthUnit): string {
  const size = length(Math.abs(mm), unit);
  // what rounds to nothing has no sign
  return Number.parseFloat(size) === 0 ? size : `${mm < 0 ? "−" : "+"}${size}`;
}

/** A ratio as it is said: "4.100". */
export function ratio(value: number): string {
  return value.toFixed(3);
}

/** A place round the ring: whole degrees, or halves where sixteen places are read: "22.5°". */
export function degrees(deg: number): string {
  return `${Math.round(deg * 10) / 10}°`;
}

/** A day, with the month in letters. */
export function day(at: string): string {
  return new Date(`${at}T12:00`).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    year: "numeric",
  });
}

/** The day of a moment, short. */
export function dayOf(at: string): string {
  return new Date(at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
}

/** A day and time as the shop writes it. */
export function when(at: string): string {
  return new Date(at).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
}

/** A distance run, with a thin space from four digits on. */
export function kilometres(km: number): string {
  return `${Math.round(km)
    .toString()
    .replace(/\B(?=(\d{3})+$)/g, "\u2009")} km`;
}

/** An amount in the smallest unit, as it is written. */
export function money(minor: number | null): string {
  return minor === null ? "" : (minor / 100).toFixed(2);
}
