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
  if (terms.length < n + 2) return null;
  const weights = new Float64Array(terms.length).fill(1);
  const left = new Float64Array(terms.length);
  let found: readonly number[] | null = start ?? null;
  let normal: Float64Array[] = [];
  let spread = 0;
  for (let round = 0; round < rounds; round++) {
    if (found) {
      for (let i = 0; i < terms.length; i++) left[i] = values[i]! - dot(found, terms[i]!);
      spread = Math.min(most, Math.max(least, 1.4826 * middleOf(Float32Array.from(left, Math.abs))));
      for (let i = 0; i < terms.length; i++) {
        const r = left[i]! / (TUKEY * spread);
        weights[i] = Math.abs(r) < 1 ? (1 - r * r) ** 2 : 0;
      }
    }
    normal = Array.from({ length: n }, () => new Float64Array(n));
    const b = new Float64Array(n);
    for (let i = 0; i < terms.length; i++) {
      const w = weights[i]!;
      if (w === 0) continue;
      const t = terms[i]!;
      for (let j = 0; j < n; j++) {
        b[j]! += w * t[j]! * values[i]!;
        for (let k = 0; k < n; k++) normal[j]![k]! += w * t[j]! * t[k]!;
      }
    }
    for (let j = 0; j < n; j++) normal[j]![j]! += ridge[j] ?? 0;
    const next = solve(normal, b);
    if (!next) return null;
    found = next;
  }
  if (!found) return null;
  for (let i = 0; i < terms.length; i++) left[i] = values[i]! - dot(found, terms[i]!);
  const unit = (i: number): number[] => Array.from({ length: n }, (_, k) => (k === i ? 1 : 0));
  const inverse: number[][] = [];
  for (let i = 0; i < n; i++) {
    const column = solve(normal, unit(i));
    if (!column) return null;
    inverse.push(column);
  }
  return { coefficients: found, spread, left, weights, inverse };
}

const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, i) => sum + v * b[i]!, 0);

/** Slope and height at 0 of the line through most points: medians of the slopes of pairs far apart (Theil 1950). */
export function middleLine(xs: readonly number[], ys: readonly number[]): [height: number, slope: number] {
  const n = xs.length;
  const slopes: number[] = [];
  const apart = Math.max(1, Math.floor(n / 3));
  const step = Math.max(1, Math.floor(n / 80));
  for (let i = 0; i + apart < n; i += step)
    for (let j = i + apart; j < n; j += step) slopes.push((ys[j]! - ys[i]!) / (xs[j]! - xs[i]!));
  const slope = slopes.length > 0 ? middleOf(Float32Array.from(slopes)) : 0;
  return [middleOf(Float32Array.from(xs, (x, i) => ys[i]! - slope * x)), slope];
}
