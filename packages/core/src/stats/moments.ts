import { DomainError, requireFinite } from '../domain-error.ts';

/**
 * Arithmetic mean, by Neumaier's compensated sum (Neumaier 1974); never outside of the values, so that a constant sample has itself as its
 * mean, to the last digit. Unit that of the values. Errors: `stats.empty`, `stats.not_finite`. Relative error under 1e-15
 * for values of one sign. Example: 1, 2, 4 is 7/3.
 */
export function mean(values: ArrayLike<number>): number {
  if (values.length === 0) throw new DomainError('stats.empty');
  requireFinite(values);
  let sum = 0;
  let lost = 0;
  let least = values[0]!;
  let most = values[0]!;
  for (let i = 0; i < values.length; i++) {
    const x = values[i]!;
    if (x < least) least = x;
    if (x > most) most = x;
    const next = sum + x;
    lost += Math.abs(sum) >= Math.abs(x) ? sum - next + x : x - next + sum;
    sum = next;
  }
  return Math.min(most, Math.max(least, (sum + lost) / values.length));
}

/** Sum of the m-th powers of the deviations from the mean, corrected for the mean's own rounding (m = 2). */
function centralSum(values: ArrayLike<number>, centre: number, power: 2 | 3): number {
  let sum = 0;
  let drift = 0;
  for (let i = 0; i < values.length; i++) {
    const d = values[i]! - centre;
    sum += power === 2 ? d * d : d * d * d;
    drift += d;
  }
  return power === 2 ? sum - (drift * drift) / values.length : sum;
}

/**
 * Sample standard deviation, divisor n - 1, two passes with the corrected second one (Chan, Golub & LeVeque
 * 1983). Null for fewer than two values. Errors as `mean`. Relative error under 1e-13 for values up to 1e6
 * standard deviations away from zero. Example: 1, 2, 4 is sqrt(7/3).
 */
export function sampleSd(values: ArrayLike<number>): number | null {
  if (values.length < 2) return null;
  return Math.sqrt(Math.max(0, centralSum(values, mean(values), 2)) / (values.length - 1));
}

/**
 * Skewness G1 = sqrt(n(n - 1)) / (n - 2) times g1, g1 = m3 / m2^1.5 (Joanes & Gill 1998, type 2).
 * Null for fewer than three values or no spread. No unit. Example: 1, 2, 4 is 0.9352.
 */
export function skewnessG1(values: ArrayLike<number>): number | null {
  const n = values.length;
  if (n < 3) return null;
  const centre = mean(values);
  const m2 = centralSum(values, centre, 2) / n;
  if (!(m2 > 0)) return null;
  const g1 = centralSum(values, centre, 3) / n / m2 ** 1.5;
  return (g1 * Math.sqrt(n * (n - 1))) / (n - 2);
}

/**
 * Power mean of losses in dB: -10 log10 of the mean of 10^(-x/10) (by definition of the dB). It stands beside the mean of the dB, never
 * in its place. Errors as `mean`. Example: 0 and 3.0103 dB is 1.2494 dB.
 */
export function powerMeanDb(lossesDb: ArrayLike<number>): number {
  return -10 * Math.log10(mean(Array.from(lossesDb, (x) => 10 ** (-x / 10))));
}
