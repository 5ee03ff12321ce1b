/** Cells and lines of an order chart, in drawing units, from the numbers alone. */

import type { Schemas } from "../api/client";
import { plot, type Box, type Plot } from "../lib/plot";

type Chart = Schemas["OrderChart"];

export const BOX: Box = { width: 720, height: 420, left: 56, right: 150, top: 26, bottom: 46 };

export interface Cell {
  x: number;
  y: number;
  width: number;
  height: number;
  /** 0 to 1, how strong */
  strength: number;
}

/** Frequencies worth drawing: up to a little over the highest peak or the propshaft's second order, whichever is higher. */
export function topHz(chart: Chart, lines: readonly Schemas["LineOut"][]): number {
  const highest = chart.frequency_edges_hz.at(-1) ?? 100;
  const fast = Math.max(...chart.speed_edges_kmh);
  const twice = (lines.find((one) => one.name === "prop_2x")?.hz_per_kmh ?? 0) * fast;
  const peaks = Math.max(0, ...chart.peaks.map((one) => ((one[0] ?? 0) * fast) / chart.reference_kmh));
  return Math.min(highest, Math.max(40, 1.15 * Math.max(twice, peaks)));
}

/** The chart's scales in the person's speed unit. */
export function chartPlot(chart: Chart, most_hz: number, perSpeed: number): Plot {
  const edges = chart.speed_edges_kmh;
  return plot((edges.at(-1) ?? 1) * perSpeed, most_hz, (edges[0] ?? 0) * perSpeed, BOX);
}

/** Cells that stand out of the floor; the rest of the paper stays empty. */
export function cells(chart: Chart, scale: Plot, most_hz: number, perSpeed: number): Cell[] {
  const all = chart.cells.flat().filter((one) => one !== null);
  const sorted = [...all].sort((a, b) => a - b);
  const floor = Math.max(sorted[Math.floor(sorted.length / 2)] ?? 0, 1e-9) * 1.6;
  const most = Math.max(...all, floor * 2);
  const found: Cell[] = [];
  chart.cells.forEach((column, at) => {
    const left = scale.x((chart.speed_edges_kmh[at] ?? 0) * perSpeed);
    const right = scale.x((chart.speed_edges_kmh[at + 1] ?? 0) * perSpeed);
    column.forEach((amplitude, row) => {
      const low = chart.frequency_edges_hz[row] ?? 0;
      if (amplitude === null || amplitude < floor || low >= most_hz) return;
      const top = scale.y(Math.min(chart.frequency_edges_hz[row + 1] ?? low, most_hz));
      const strength = Math.log(amplitude / floor) / Math.log(most / floor);
      found.push({ x: left, y: top, width: right - left + 0.4, height: scale.y(low) - top + 0.4, strength });
    });
  });
  return found;
}

/** Labels at the right edge, moved apart so that none covers another. */
export function labels(wanted: { name: string; y: number }[], least: number): { name: string; y: number }[] {
  const sorted = [...wanted].sort((a, b) => b.y - a.y);
  let last = Infinity;
  return sorted.map(({ name, y }) => {
    last = Math.min(y, last - least);
    return { name, y: last };
  });
}
