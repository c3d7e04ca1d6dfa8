import type { FaceSettings } from '../settings.ts';
import type { FlatFace } from '../cladding/flat-face.ts';
import { solve } from '../pixels/solve.ts';
import { axisOf } from './trace-lines.ts';

/** A bent curve: points at s along an axis and a polynomial of s across it, `bend` its weights by rising power; pixels. */
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

function valueOf(bend: readonly number[], s: number): number {
  let sum = 0;
  for (let k = bend.length - 1; k >= 0; k--) sum = sum * s + bend[k]!;
  return sum;
}
function slopeOf(bend: readonly number[], s: number): number {
  let sum = 0;
  for (let k = bend.length - 1; k >= 1; k--) sum = sum * s + k * bend[k]!;
  return sum;
}

/** Where a point of the curve lies, `n` beside it; and the direction across the curve there. */
export function onCurve({ x, y, ux, uy, bend }: Curve, s: number, n: number): Point {
  const across = valueOf(bend, s);
  const slope = slopeOf(bend, s);
  const stretch = Math.hypot(1, slope);
  // Along the curve's own normal, which leans back where the curve rises.
  const t = s - (n * slope) / stretch;
  const m = across + n / stretch;
  return [x + t * ux - m * uy, y + t * uy + m * ux];
}

/** How far along the curve's axis a point lies. */
export const alongOf = ({ x, y, ux, uy }: Curve, [px, py]: Point): number => (px - x) * ux + (py - y) * uy;

/**
 * The curve through points, those that lie off by more than three robust spreads left out: a parabola, or a polynomial of
 * the fourth degree where a long line bends further than a parabola follows. Null under four points.
 */
export function curveThrough(points: readonly Point[], settings: FaceSettings): Curve | null {
  if (points.length < 4) return null;
  const { x, y, ux, uy } = axisOf(points);
  const placed = points.map(([px, py]): Placed => ({
    s: (px - x) * ux + (py - y) * uy,
    n: (py - y) * ux - (px - x) * uy,
  }));
  let from = Infinity;
  let to = -Infinity;
  for (const { s } of placed) [from, to] = [Math.min(from, s), Math.max(to, s)];
  let best = fitted(placed, 2);
  if (best.off > settings.curve.offPx && to - from > settings.curve.longPx && points.length > 9) {
    const more = fitted(placed, 4);
    if (more.off < settings.curve.nearer * best.off) best = more;
  }
  return { x, y, ux, uy, bend: best.bend, from, to };
}

interface Placed {
  readonly s: number;
  readonly n: number;
}

/** A polynomial by least squares in four rounds, and how far half of the points lie off it at most. */
function fitted(placed: readonly Placed[], degree: number): { bend: readonly number[]; off: number } {
  const size = degree + 1;
  // Powers of places in hundreds of pixels keep the sums alike in size.
  const row = new Float64Array(size);
  let bend: readonly number[] = new Array<number>(size).fill(0);
  let cut = Infinity;
  let off = Infinity;
  for (let round = 0; round < 4; round++) {
    const a = Array.from({ length: size }, () => new Float64Array(size));
    const b = new Float64Array(size);
    for (const { s, n } of placed) {
      if (Math.abs(n - valueOf(bend, s)) > cut) continue;
      row[0] = 1;
      for (let k = 1; k < size; k++) row[k] = (row[k - 1]! * s) / 100;
      for (let k = 0; k < size; k++) {
        b[k]! += row[k]! * n;
        for (let l = 0; l < size; l++) a[k]![l]! += row[k]! * row[l]!;
      }
    }
    const solved = solve(a, b);
    if (solved) bend = solved.map((w, k) => w / 100 ** k);
    const offs = placed.map(({ s, n }) => Math.abs(n - valueOf(bend, s)));
    offs.sort((p, q) => p - q);
    off = offs[offs.length >> 1]!;
    cut = Math.max(0.6, 3 * 1.4826 * off);
  }
  return { bend, off };
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
  const across = valueOf(bend, s);
  const slope = slopeOf(bend, s);
  const stretch = Math.hypot(1, slope);
  const nx = (-slope * ux - uy) / stretch;
  const ny = (-slope * uy + ux) / stretch;
  const px = x + s * ux - across * uy;
  const py = y + s * uy + across * ux;
  for (let k = 0; k < sums.length; k++) {
    const n = first + k * step;
    const qx = px + n * nx;
    const qy = py + n * ny;
    const x0 = Math.floor(qx);
    const y0 = Math.floor(qy);
    if (x0 < 0 || y0 < 0 || x0 >= side - 1 || y0 >= side - 1) continue;
    const i = y0 * side + x0;
    if (inside[i] === 0 || inside[i + side + 1] === 0) continue;
    const fx = qx - x0;
    const fy = qy - y0;
    const top = level[i]! * (1 - fx) + level[i + 1]! * fx;
    const bottom = level[i + side]! * (1 - fx) + level[i + side + 1]! * fx;
    sums[k]! += top * (1 - fy) + bottom * fy;
    counts[k]! += 1;
  }
}
