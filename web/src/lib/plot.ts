/** A chart of lines: scales with round marks, paths, and nothing else. */

export interface Box {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export const BOX: Box = { width: 640, height: 330, left: 56, right: 34, top: 22, bottom: 44 };

export interface Plot {
  x(value: number): number;
  y(value: number): number;
  xTicks: number[];
  yTicks: number[];
}

/** A step of 1, 2 or 5 times a power of ten that marks a span about five times. */
export function roundStep(span: number): number {
  const raw = Math.max(span, 1e-9) / 5;
  const ten = 10 ** Math.floor(Math.log10(raw));
  return [1, 2, 5, 10].map((one) => one * ten).find((one) => one >= raw) ?? raw;
}

function ticks(least: number, most: number): number[] {
  const step = roundStep(most - least);
  const first = Math.ceil(least / step - 1e-9);
  const count = Math.floor(most / step + 1e-9) - first + 1;
  return Array.from({ length: count }, (_, index) => (first + index) * step);
}

/** Both axes to what is shown, in the person's units; across from `xLeast`, up from `yLeast`. */
export function plot(xMost: number, yMost: number, xLeast = 0, box: Box = BOX, yLeast = 0): Plot {
  const wide = box.width - box.left - box.right;
  const high = box.height - box.top - box.bottom;
  return {
    x: (value) => box.left + (Math.max(value - xLeast, 0) / (xMost - xLeast)) * wide,
    y: (value) =>
      box.height - box.bottom - ((Math.min(value, yMost * 1.02) - yLeast) / (yMost - yLeast)) * high,
    xTicks: ticks(xLeast, xMost),
    yTicks: ticks(yLeast, yMost),
  };
}

/** A path through points; empty for fewer than two. */
export function line(points: { x: number; y: number }[], chart: Plot): string {
  if (points.length < 2) return "";
  return `M${points.map(({ x, y }) => `${chart.x(x).toFixed(1)} ${chart.y(y).toFixed(1)}`).join("L")}`;
}
