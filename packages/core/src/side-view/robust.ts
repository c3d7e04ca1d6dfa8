import { solve } from '../faces/pixels/solve.ts';
import { middleOf } from '../faces/pixels/quantile.ts';

/** A robust straight-line fit in given terms. */
export interface RobustFit {
  readonly coefficients: readonly number[];
  /** Standard deviation of what was not thrown out, by the middle of the deviations. */
  readonly spread: number;
  /** Deviation of each row, in the order given. */
  readonly left: Float64Array;
  /** Weight of each row, 0 to 1. */
  readonly weights: Float64Array;
  /** Inverse of the normal equations: times the spread squared it is the covariance of the coefficients. */
  readonly inverse: readonly (readonly number[])[];
}

/** Neighbouring rows and columns of a picture err together: by so much an uncertainty is larger than that of as many free ones; house. */
export const CORRELATED = 1.6;
const TUKEY = 4.685;
const ROUNDS = 12;

/**
 * Weighted least squares with Tukey's biweight (Holland and Welsch 1977), from a start that is given or from the mean. `terms` are rows
 * of equal length. Null where the system is singular.
 */
export function robustFit(
  terms: readonly (readonly number[])[],
  values: readonly number[],
  {
    start,
    least = 1e-3,
    most = Infinity,
    rounds = ROUNDS,
    ridge = [],
  }: {
    readonly start?: readonly number[];
    /** Between these the spread is believed. */
    readonly least?: number;
    readonly most?: number;
    readonly rounds?: number;
    /** Weight with which each coefficient is held to 0. */
    readonly ridge?: readonly number[];
  } = {},
): RobustFit | null {
  const n = terms[0]?.length ?? 0;
  const m = terms.length;
  if (m < n + 2) return null;
  const flat = new Float64Array(m * n);
  for (let i = 0; i < m; i++) for (let j = 0; j < n; j++) flat[i * n + j] = terms[i]![j]!;
  const weights = new Float64Array(m).fill(1);
  const left = new Float64Array(m);
  const off = new Float32Array(m);
  const normal = Array.from({ length: n }, () => new Float64Array(n));
  const b = new Float64Array(n);
  let found: readonly number[] | null = start ?? null;
  let spread = 0;
  for (let round = 0; round < rounds; round++) {
    if (found) {
      leaveOff(found, flat, values, left);
      for (let i = 0; i < m; i++) off[i] = Math.abs(left[i]!);
      spread = Math.min(most, Math.max(least, 1.4826 * middleOf(off)));
      for (let i = 0; i < m; i++) {
        const r = left[i]! / (TUKEY * spread);
        weights[i] = Math.abs(r) < 1 ? (1 - r * r) ** 2 : 0;
      }
    }
    addUp(flat, values, weights, normal, b);
    for (let j = 0; j < n; j++) normal[j]![j]! += ridge[j] ?? 0;
    const next = solve(normal, b);
    if (!next) return null;
    const isDone = found !== null && next.every((c, j) => Math.abs(c - found![j]!) < SETTLED);
    found = next;
    if (isDone) break;
  }
  if (!found) return null;
  leaveOff(found, flat, values, left);
  const inverse: number[][] = [];
  for (let i = 0; i < n; i++) {
    const column = solve(
      normal,
      Array.from({ length: n }, (_, k) => (k === i ? 1 : 0)),
    );
    if (!column) return null;
    inverse.push(column);
  }
  return { coefficients: found, spread, left, weights, inverse };
}

/** Coefficients that move by less than this have settled. */
const SETTLED = 1e-9;

/** What each row lies off. */
function leaveOff(
  c: readonly number[],
  flat: Float64Array,
  values: readonly number[],
  left: Float64Array,
): void {
  const n = c.length;
  for (let i = 0; i < left.length; i++) {
    let sum = 0;
    for (let j = 0; j < n; j++) sum += c[j]! * flat[i * n + j]!;
    left[i] = values[i]! - sum;
  }
}

/** The normal equations of weighted rows. */
function addUp(
  flat: Float64Array,
  values: readonly number[],
  weights: Float64Array,
  normal: readonly Float64Array[],
  b: Float64Array,
): void {
  const n = b.length;
  b.fill(0);
  for (const row of normal) row.fill(0);
  for (let i = 0; i < weights.length; i++) {
    const w = weights[i]!;
    if (w === 0) continue;
    for (let j = 0; j < n; j++) {
      const t = w * flat[i * n + j]!;
      b[j]! += t * values[i]!;
      const row = normal[j]!;
      for (let k = j; k < n; k++) row[k]! += t * flat[i * n + k]!;
    }
  }
  for (let j = 0; j < n; j++) for (let k = 0; k < j; k++) normal[j]![k] = normal[k]![j]!;
}

/** Slope and height at 0 of the line through most points: medians of the slopes of pairs far apart (Theil 1950). */
export function middleLine(xs: readonly number[], ys: readonly number[]): [height: number, slope: number] {
  const n = xs.length;
  const slopes: number[] = [];
  const apart = Math.max(1, Math.floor(n / 3));
  const step = Math.max(1, Math.floor(n / 45));
  for (let i = 0; i + apart < n; i += step)
    for (let j = i + apart; j < n; j += step) slopes.push((ys[j]! - ys[i]!) / (xs[j]! - xs[i]!));
  const slope = slopes.length > 0 ? middleOf(Float32Array.from(slopes)) : 0;
  return [middleOf(Float32Array.from(xs, (x, i) => ys[i]! - slope * x)), slope];
}
