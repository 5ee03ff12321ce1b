/** Geometry of the driveline drawing: scales and places, from the numbers alone. Millimetres in, drawing units out. */

import type { Schemas } from "../api/client";

export type Point3 = [number, number, number];
export type View = "side" | "top";

/** Across runs the vehicle's length, rearward to the right. Seen from the left side height is up; seen from above the left side is down. */
export interface Scale {
  per: number;
  x(point: readonly number[]): number;
  y(point: readonly number[]): number;
  /** place of a joint that was moved on the drawing to these units */
  back(point: readonly number[], x: number, y: number): Point3;
  height: number;
}

export const WIDE = 720;
/** on a phone the drawing is narrower, so that its figures stay as large as a thumb needs them */
export const NARROW = 400;
const MARGIN_Y = 84;

const at = (point: readonly number[], index: number) => point[index] ?? 0;

/** One scale for both directions, so that angles are those of the vehicle. */
export function scaleFor(points: readonly number[][], view: View, width = WIDE): Scale {
  const marginX = width === WIDE ? 96 : 48;
  const up = view === "side" ? 2 : 1;
  const xs = points.map((one) => at(one, 0));
  const ys = points.map((one) => at(one, up));
  const left = Math.min(...xs);
  const span = Math.max(Math.max(...xs) - left, 1);
  const high = Math.max(...ys);
  const per = (width - 2 * marginX) / span;
  const height = Math.max((high - Math.min(...ys)) * per + 2 * MARGIN_Y, 150);
  const middle = (high + Math.min(...ys)) / 2;
  const way = view === "side" ? -1 : 1;
  return {
    per,
    height,
    x: (point) => marginX + (at(point, 0) - left) * per,
    y: (point) => height / 2 + way * (at(point, up) - middle) * per,
    back: (point, x, y) => {
      const found: Point3 = [at(point, 0), at(point, 1), at(point, 2)];
      found[0] = left + (x - marginX) / per;
      found[up] = middle + (way * (y - height / 2)) / per;
      return found;
    },
  };
}

/** The end of a line of a member from a point along its axis, [mm]. */
export function along(point: readonly number[], axis: readonly number[], length: number): number[] {
  return point.map((one, index) => one + at(axis, index) * length);
}

export type JointState = "in" | "edge" | "out";

/** The worst that any limit says of a joint; limits of whole shafts and of the residual are told beside the drawing. */
export function jointState(limits: readonly Schemas["HeldLimit"][], joint: number): JointState {
  const mine = limits.filter(
    (one) => one.place === joint && ["joint_angle", "running_angle", "joint_limit"].includes(one.name),
  );
  if (mine.some((one) => one.verdict === "out")) return "out";
  return mine.some((one) => one.verdict === "edge") ? "edge" : "in";
}

/** Worst verdict of a list. */
export function worst(limits: readonly Schemas["HeldLimit"][]): JointState {
  if (limits.some((one) => one.verdict === "out")) return "out";
  return limits.some((one) => one.verdict === "edge") ? "edge" : "in";
}
