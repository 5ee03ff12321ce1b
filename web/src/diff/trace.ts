/** A point on a photo, in pixels of the photo, y downwards. */
export interface Pixel {
  x: number;
  y: number;
}

/** Two points whose distance is known, [mm]. */
export interface Known {
  from: Pixel;
  to: Pixel;
  mm: number;
}

/** Two known distances that differ by more than this were not photographed square on. */
export const MOST_DIFFERENCE = 0.02;

const far = (a: Pixel, b: Pixel) => Math.hypot(a.x - b.x, a.y - b.y);

/** Millimetres in a pixel by each known distance. */
export const scales = (known: Known[]): number[] =>
  known.map((one) => one.mm / far(one.from, one.to)).filter((one) => Number.isFinite(one) && one > 0);

/** How much the known distances disagree, as a share. */
export function disagreement(known: Known[]): number {
  const found = scales(known);
  return found.length < 2 ? 0 : Math.max(...found) / Math.min(...found) - 1;
}

/** Points in millimetres about their middle, x right, y up, to a hundredth. */
export function inMillimetres(
  points: Pixel[],
  known: Known[],
  about: Pixel[] = points,
): { x: string; y: string }[] {
  const found = scales(known);
  const per = found.reduce((sum, one) => sum + one, 0) / found.length;
  const middle = {
    x: (Math.min(...about.map((one) => one.x)) + Math.max(...about.map((one) => one.x))) / 2,
    y: (Math.min(...about.map((one) => one.y)) + Math.max(...about.map((one) => one.y))) / 2,
  };
  return points.map((one) => ({
    x: `${((one.x - middle.x) * per).toFixed(2)} mm`,
    y: `${((middle.y - one.y) * per).toFixed(2)} mm`,
  }));
}
