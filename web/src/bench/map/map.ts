/** The set-up map: ring position to the right [mm], pinion depth up [mm], + away from the pinion and + too shallow. */

import { contours } from "d3-contour";

import type { Chart } from "../../api/client";

export interface Place {
  pinion_mm: number;
  ring_mm: number;
}

export class MapFrame {
  readonly size: number;
  readonly pad = 58;
  readonly half: number;
  #chart: Chart;

  constructor(chart: Chart, size = 520) {
    this.#chart = chart;
    this.size = size;
    this.half = Math.max(...chart.ring_mm.map(Math.abs), 0.05);
  }

  get inner(): number {
    return this.size - 2 * this.pad;
  }

  x(ring_mm: number): number {
    return this.pad + ((ring_mm + this.half) / (2 * this.half)) * this.inner;
  }

  y(pinion_mm: number): number {
    return this.pad + ((this.half - pinion_mm) / (2 * this.half)) * this.inner;
  }

  /** The place under a point of the drawing, kept on the map. */
  under(x: number, y: number): Place {
    const clip = (value: number) => Math.min(Math.max(value, -this.half), this.half);
    return {
      ring_mm: clip(((x - this.pad) / this.inner) * 2 * this.half - this.half),
      pinion_mm: clip(this.half - ((y - this.pad) / this.inner) * 2 * this.half),
    };
  }

  /** Where everything passes at least by a margin, as a path. */
  region(margin: number): string {
    const rows = this.#chart.margin;
    const columns = rows[0]?.length ?? 0;
    if (rows.length < 2 || columns < 2) return "";
    const [found] = contours().size([columns, rows.length]).thresholds([margin])(rows.flat());
    const step = (2 * this.half) / (columns - 1);
    const along = (cell: number) =>
      Math.min(Math.max((cell - 0.5) * step - this.half, -this.half), this.half);
    return (found?.coordinates ?? [])
      .flat()
      .map((ring) => this.#path(ring.map(([i = 0, j = 0]) => [along(i), along(j)])))
      .join("");
  }

  get ellipse(): string {
    return this.#path(this.#chart.ellipse);
  }

  get trials(): { x: number; y: number }[] {
    return this.#chart.trials.map(([ring = 0, pinion = 0]) => ({ x: this.x(ring), y: this.y(pinion) }));
  }

  /** Round values for the axes. */
  get ticks(): number[] {
    const step = this.half > 0.3 ? 0.2 : this.half > 0.15 ? 0.1 : 0.05;
    const most = Math.floor(this.half / step + 1e-9);
    return Array.from({ length: 2 * most + 1 }, (_, index) => (index - most) * step);
  }

  #path(points: number[][]): string {
    const each = points.map(
      ([ring = 0, pinion = 0]) => `${this.x(ring).toFixed(1)} ${this.y(pinion).toFixed(1)}`,
    );
    return each.length > 0 ? `M${each.join("L")}Z` : "";
  }
}
