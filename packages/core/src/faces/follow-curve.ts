import type { FlatFace } from './flatten.ts';
import { solve } from './solve.ts';
import { axisOf } from './trace-lines.ts';

/** A gently bent curve: points at s along an axis and a + b s + c s^2 across it; pixels. */
export interface Curve {
  readonly x: number;
  readonly y: number;
  readonly ux: number;
  readonly uy: number;
  readonly bend: readonly number[];
  readonly from: number;
  readonly to: number;
}
type Point = readonly [x: number, y: number];

/** Where a point of the curve lies, `n` beside it; and the direction across the curve there. */
export function onCurve({ x, y, ux, uy, bend }: Curve, s: number, n: number): Point {
  const across = bend[0]! + bend[1]! * s + bend[2]! * s * s;
  const slope = bend[1]! + 2 * bend[2]! * s;
  const stretch = Math.hypot(1, slope);
  // Along the curve's own normal, which leans back where the curve rises.
  const [t, m] = [s - (n * slope) / stretch, across + n / stretch];
  return [x + t * ux - m * uy, y + t * uy + m * ux];
}

/** How far along the curve's axis a point lies. */
export const alongOf = ({ x, y, ux, uy }: Curve, [px, py]: Point): number => (px - x) * ux + (py - y) * uy;

/** The curve through points, those that lie off by more than three robust spreads left out. Null under four points. */
export function curveThrough(points: readonly Point[]): Curve | null {
  if (points.length < 4) return null;
  const { x, y, ux, uy } = axisOf(points);
  const placed = points.map(([px, py]) => ({
    s: (px - x) * ux + (py - y) * uy,
    n: (py - y) * ux - (px - x) * uy,
  }));
  let bend: readonly number[] = [0, 0, 0];
  let cut = Infinity;
  for (let round = 0; round < 4; round++) {
    const a = [0, 1, 2].map(() => [0, 0, 0]);
    const b = [0, 0, 0];
    for (const { s, n } of placed) {
      if (Math.abs(n - bend[0]! - bend[1]! * s - bend[2]! * s * s) > cut) continue;
      const row = [1, s, s * s];
      for (let k = 0; k < 3; k++) {
        b[k]! += row[k]! * n;
        for (let l = 0; l < 3; l++) a[k]![l]! += row[k]! * row[l]!;
      }
    }
    bend = solve(a, b) ?? bend;
    const off = placed.map(({ s, n }) => Math.abs(n - bend[0]! - bend[1]! * s - bend[2]! * s * s));
    off.sort((p, q) => p - q);
    cut = Math.max(0.6, 3 * 1.4826 * off[off.length >> 1]!);
  }
  const along = placed.map((p) => p.s);
  return { x, y, ux, uy, bend, from: Math.min(...along), to: Math.max(...along) };
}

/**
 * Adds the levels along the normal at `s` to `sums` and counts them, at places from `first` in steps of `step`; what lies
 * outside the square, or where nothing is looked for, is not counted.
 */
export function addAcross(
  { side, inside, level }: FlatFace,
  { x, y, ux, uy, bend }: Curve,
  s: number,
  first: number,
  step: number,
  sums: Float64Array,
  counts: Uint16Array,
): void {
  const across = bend[0]! + bend[1]! * s + bend[2]! * s * s;
  const slope = bend[1]! + 2 * bend[2]! * s;
  const stretch = Math.hypot(1, slope);
  const [nx, ny] = [(-slope * ux - uy) / stretch, (-slope * uy + ux) / stretch];
  const [px, py] = [x + s * ux - across * uy, y + s * uy + across * ux];
  for (let k = 0; k < sums.length; k++) {
    const n = first + k * step;
    const [qx, qy] = [px + n * nx, py + n * ny];
    const [x0, y0] = [Math.floor(qx), Math.floor(qy)];
    if (x0 < 0 || y0 < 0 || x0 >= side - 1 || y0 >= side - 1) continue;
    const i = y0 * side + x0;
    if (inside[i] === 0 || inside[i + side + 1] === 0) continue;
    const [fx, fy] = [qx - x0, qy - y0];
    const top = level[i]! * (1 - fx) + level[i + 1]! * fx;
    const bottom = level[i + side]! * (1 - fx) + level[i + side + 1]! * fx;
    sums[k]! += top * (1 - fy) + bottom * fy;
    counts[k]! += 1;
  }
}
