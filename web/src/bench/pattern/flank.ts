/** A ring tooth's flank on the screen: u from toe (0) to heel (1), v from root (0) to tip (1); x to the right, y down. */

import { contours } from "d3-contour";

import type { Schemas } from "../../api/client";

export type Proportions = NonNullable<Schemas["BenchOut"]["proportions"]>;
export type Edge = Schemas["PatternOut"]["runs_off"][number];

export interface Point {
  x: number;
  y: number;
}

/** A drawn patch: middle, half axes as shares of the flank's length and depth, and lean [deg]; the long axis first. */
export interface Patch {
  u: number;
  v: number;
  long: number;
  short: number;
  lean: number;
}

/** A patch as it is reported: what of it lies on the flank, as middle and four standard deviations along and across. */
export interface Reported {
  u: number;
  v: number;
  length: number;
  height: number;
  tilt_deg: number;
  runs_off: Edge[];
}

export const EDGES: Edge[] = ["toe", "heel", "root", "tip"];
const OFF_BY = 0.015;
const rad = (deg: number) => (deg * Math.PI) / 180;

/** The flank drawn to the set's proportions inside a width; the pitch line is level. */
export class FlankFrame {
  readonly width: number;
  readonly height: number;
  readonly pad: number;
  #toe: number;
  #heel: number;

  constructor(proportions: Proportions | null, width = 520, pad = 30) {
    this.pad = pad;
    const { face_mm, toe_depth_mm, heel_depth_mm } = proportions ?? {
      face_mm: 32,
      toe_depth_mm: 7,
      heel_depth_mm: 9,
    };
    this.width = width;
    const scale = (width - 2 * this.pad) / face_mm;
    this.#toe = toe_depth_mm * scale;
    this.#heel = heel_depth_mm * scale;
    this.height = Math.max(this.#toe, this.#heel) + 2 * this.pad;
  }

  #depth(u: number): number {
    return this.#toe + (this.#heel - this.#toe) * u;
  }

  at(u: number, v: number): Point {
    return {
      x: this.pad + u * (this.width - 2 * this.pad),
      y: this.height / 2 + (0.5 - v) * this.#depth(u),
    };
  }

  /** The place on the flank under a point of the drawing. */
  under(point: Point): { u: number; v: number } {
    const u = (point.x - this.pad) / (this.width - 2 * this.pad);
    return { u, v: 0.5 - (point.y - this.height / 2) / this.#depth(Math.min(Math.max(u, 0), 1)) };
  }

  path(points: { u: number; v: number }[]): string {
    return `M${points
      .map(({ u, v }) => this.at(u, v))
      .map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`)
      .join("L")}Z`;
  }

  get outline(): string {
    return this.path([
      { u: 0, v: 0 },
      { u: 1, v: 0 },
      { u: 1, v: 1 },
      { u: 0, v: 1 },
    ]);
  }

  patch(patch: Patch): string {
    return this.path(outlineOf(patch));
  }

  /** The region of a window of middles. */
  region(window: { u_min: number; u_max: number; v_min: number; v_max: number }): string {
    const clip = (value: number) => Math.min(Math.max(value, 0), 1);
    const [u0, u1, v0, v1] = [window.u_min, window.u_max, window.v_min, window.v_max].map(clip) as [
      number,
      number,
      number,
      number,
    ];
    return this.path([
      { u: u0, v: v0 },
      { u: u1, v: v0 },
      { u: u1, v: v1 },
      { u: u0, v: v1 },
    ]);
  }

  /** The outline of a pattern of the model, where it is half marked. */
  model(pattern: Schemas["FlankPatternOut"]): string {
    const { mask, shift_u, shift_v } = pattern;
    const rows = mask.length;
    const columns = mask[0]?.length ?? 0;
    if (rows < 2 || columns < 2) return "";
    // a rim of nothing, so that a patch cut off by an edge still closes
    const wide = columns + 2;
    const values = [
      ...Array<number>(wide).fill(0),
      ...mask.flatMap((row) => [0, ...row, 0]),
      ...Array<number>(wide).fill(0),
    ];
    const [found] = contours()
      .size([wide, rows + 2])
      .thresholds([0.5])(values);
    const clip = (value: number) => Math.min(Math.max(value, 0), 1);
    return (found?.coordinates ?? [])
      .flatMap((polygon) => polygon)
      .map((ring) =>
        this.path(
          ring.map(([x = 0, y = 0]) => ({
            u: clip((x - 1.5) / (columns - 1) + shift_u),
            v: clip((y - 1.5) / (rows - 1) + shift_v),
          })),
        ),
      )
      .join("");
  }
}

/** Points round a patch, in flank coordinates. */
export function outlineOf(patch: Patch, points = 60): { u: number; v: number }[] {
  const cos = Math.cos(rad(patch.lean));
  const sin = Math.sin(rad(patch.lean));
  return Array.from({ length: points }, (_, step) => {
    const turn = (2 * Math.PI * step) / points;
    const a = patch.long * Math.cos(turn);
    const b = patch.short * Math.sin(turn);
    return { u: patch.u + a * cos - b * sin, v: patch.v + a * sin + b * cos };
  });
}

function holds(patch: Patch, u: number, v: number): boolean {
  const cos = Math.cos(rad(patch.lean));
  const sin = Math.sin(rad(patch.lean));
  const a = (u - patch.u) * cos + (v - patch.v) * sin;
  const b = -(u - patch.u) * sin + (v - patch.v) * cos;
  return (a / patch.long) ** 2 + (b / patch.short) ** 2 <= 1;
}

/** What of a drawn patch lies on the flank. */
export function reported(patch: Patch): Reported {
  const inside: { u: number; v: number }[] = [];
  for (let i = 0; i < 80; i += 1)
    for (let j = 0; j < 50; j += 1) {
      const u = (i + 0.5) / 80;
      const v = (j + 0.5) / 50;
      if (holds(patch, u, v)) inside.push({ u, v });
    }
  const count = inside.length || 1;
  const mean = (pick: (one: { u: number; v: number }) => number) =>
    inside.reduce((sum, one) => sum + pick(one), 0) / count;
  const clip = (value: number) => Math.min(Math.max(value, 0), 1);
  const u = inside.length ? mean((one) => one.u) : clip(patch.u);
  const v = inside.length ? mean((one) => one.v) : clip(patch.v);
  const uu = mean((one) => (one.u - u) ** 2);
  const vv = mean((one) => (one.v - v) ** 2);
  const uv = mean((one) => (one.u - u) * (one.v - v));
  const round = (value: number, digits = 3) => Number(value.toFixed(digits));
  const shape = outlineOf(patch);
  const runs_off = EDGES.filter((edge) =>
    shape.some((one) => {
      const beyond = { toe: -one.u, heel: one.u - 1, root: -one.v, tip: one.v - 1 }[edge];
      return beyond > OFF_BY;
    }),
  );
  return {
    u: round(u),
    v: round(v),
    length: round(Math.max(4 * Math.sqrt(uu), 0.02)),
    height: round(Math.max(4 * Math.sqrt(vv), 0.02)),
    tilt_deg: round((Math.atan2(2 * uv, uu - vv) * 90) / Math.PI, 1),
    runs_off,
  };
}

/** A patch to draw for one that was reported. */
export function drawn(one: Pick<Reported, "u" | "v" | "length" | "height" | "tilt_deg">): Patch {
  const uu = (one.length / 4) ** 2;
  const vv = (one.height / 4) ** 2;
  const most = 0.95 * Math.sqrt(uu * vv);
  const wanted = 0.5 * Math.tan(rad(2 * one.tilt_deg)) * (uu - vv);
  const uv = Math.min(Math.max(wanted, -most), most);
  const middle = (uu + vv) / 2;
  const off = Math.hypot((uu - vv) / 2, uv);
  return {
    u: one.u,
    v: one.v,
    long: 2 * Math.sqrt(middle + off),
    short: 2 * Math.sqrt(Math.max(middle - off, 1e-5)),
    lean: one.tilt_deg,
  };
}

/** Kept on the flank, and of a size that paint can have. */
export function sensible(patch: Patch): Patch {
  const within = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);
  return {
    u: within(patch.u, 0, 1),
    v: within(patch.v, 0, 1),
    long: within(patch.long, 0.05, 0.75),
    short: within(patch.short, 0.05, 0.75),
    lean: within(patch.lean, -80, 80),
  };
}
