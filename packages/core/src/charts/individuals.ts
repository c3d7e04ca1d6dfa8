import { requireFinite } from '../domain-error.ts';
import { mean } from '../stats/index.ts';

/**
 * Mean range of two normal values over their standard deviation, and 1 + 3 times the range's spread over its mean: as the
 * tables of the handbooks round them, and exactly, d2 = 2 / sqrt(pi) and d3 = sqrt(2 - 4 / pi).
 */
const CONSTANTS = {
  handbook: { d2: 1.128, d4: 3.267 },
  exact: { d2: 2 / Math.sqrt(Math.PI), d4: 1 + (3 * Math.sqrt(2 - 4 / Math.PI) * Math.sqrt(Math.PI)) / 2 },
} as const;
export type ChartConstants = keyof typeof CONSTANTS;

export type IndividualsChart =
  | { readonly kind: 'none'; readonly reason: 'too_few' }
  | {
      readonly kind: 'chart';
      readonly centre: number;
      /** One sigma by the mean moving range. */
      readonly sigma: number;
      readonly low: number;
      readonly high: number;
      readonly meanRange: number;
      readonly rangeHigh: number;
      /** Positions (from 0) strictly outside of the limits, and of ranges (that of a value and the one before it). */
      readonly out: readonly number[];
      readonly rangesOut: readonly number[];
    };

/**
 * Individuals and moving-range chart: mean -+ 3 mean moving range / 1.128, upper limit of the ranges 3.267 mean moving
 * range; the lower limit is not clipped (NIST/SEMATECH e-Handbook 6.3.2.2), or with the exact constants, not rounded. Out is strictly outside, with a slack of 1e-9
 * of the largest size so that a constant series is quiet. Unit that of the values, in order of time. No chart for fewer
 * than two values. Error: `stats.not_finite`. Example: 49.6, 47.6, 49.9 has limits 49.03 -+ 5.72.
 */
export function individualsChart(
  values: ArrayLike<number>,
  constants: ChartConstants = 'handbook',
): IndividualsChart {
  const { d2, d4 } = CONSTANTS[constants];
  requireFinite(values);
  if (values.length < 2) return { kind: 'none', reason: 'too_few' };
  const centre = mean(values);
  const ranges = Float64Array.from({ length: values.length - 1 }, (_, i) =>
    Math.abs(values[i + 1]! - values[i]!),
  );
  const meanRange = mean(ranges);
  const sigma = meanRange / d2;
  const low = centre - 3 * sigma;
  const high = centre + 3 * sigma;
  const rangeHigh = d4 * meanRange;
  const slack = slackOf(values);
  const out: number[] = [];
  const rangesOut: number[] = [];
  for (let i = 0; i < values.length; i++) {
    if (values[i]! > high + slack || values[i]! < low - slack) out.push(i);
    if (i > 0 && ranges[i - 1]! > rangeHigh + slack) rangesOut.push(i);
  }
  return { kind: 'chart', centre, sigma, low, high, meanRange, rangeHigh, out, rangesOut };
}

/** What rounding may make of values of this size: 1e-9 of the largest, in their unit, as `individualsChart`. Example: 50 gives 5e-8. */
export function slackOf(values: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < values.length; i++) most = Math.max(most, Math.abs(values[i]!));
  return 1e-9 * most;
}
