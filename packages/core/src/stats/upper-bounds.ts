import { DomainError } from '../domain-error.ts';
import { binomialCdf, noncentralTQuantile, normalQuantile } from '../special/index.ts';
import { mean, sampleSd } from './moments.ts';
import { sorted } from './quantile.ts';

const MOST_N = 1000;
/** Two chances this close are one: percents meet exactly, and their computed values to 1e-13. */
const TIE = 1e-12;
function check(coverage: number, confidence: number): void {
  for (const p of [coverage, confidence]) {
    if (!(p > 0 && p < 1)) throw new DomainError('stats.bad_probability', { p });
  }
}

/**
 * Exact one-sided normal tolerance factor k: mean + k s covers the share `coverage` of a normal population with the given
 * confidence, k = t(confidence; n - 1, z sqrt n) / sqrt n of the non-central t (Owen 1963; NIST/SEMATECH e-Handbook
 * 7.2.6.3). Input: whole n from 2 to 1000. Errors: `stats.bad_sample_size`, `stats.bad_probability`. Relative error under
 * 1e-9. Example: n = 10, 0.95 and 0.95 is 2.911.
 */
export function toleranceFactor(n: number, coverage = 0.95, confidence = 0.95): number {
  if (!Number.isInteger(n) || n < 2 || n > MOST_N)
    throw new DomainError('stats.bad_sample_size', { n, most: MOST_N });
  check(coverage, confidence);
  const root = Math.sqrt(n);
  return noncentralTQuantile(confidence, n - 1, normalQuantile(coverage) * root) / root;
}

export type UpperBound =
  | { readonly kind: 'none'; readonly reason: 'too_few' | 'no_spread'; readonly needed: number }
  | { readonly kind: 'bound'; readonly value: number; readonly factor: number }
  | { readonly kind: 'order'; readonly value: number; readonly rank: number };

/**
 * Upper bound under which the share `coverage` of a normal population lies, with the given confidence: mean + k s. Unit
 * that of the values; over 1000 values the factor of 1000 is used, which lies on the safe side. No bound for fewer than two
 * values or no spread. Errors as `toleranceFactor`, `stats.not_finite`. Example: of 10 values 2.911 SD above the mean.
 */
export function normalUpperBound(values: ArrayLike<number>, coverage = 0.95, confidence = 0.95): UpperBound {
  check(coverage, confidence);
  if (values.length < 2) return { kind: 'none', reason: 'too_few', needed: 2 };
  const sd = sampleSd(values)!;
  if (!(sd > 0)) return { kind: 'none', reason: 'no_spread', needed: 2 };
  const factor = toleranceFactor(Math.min(MOST_N, values.length), coverage, confidence);
  return { kind: 'bound', value: mean(values) + factor * sd, factor };
}

/**
 * Rank r of the smallest value, counted from the smallest, that lies above the share `coverage` of any population with the
 * given confidence: the least r with P(Bin(n, coverage) <= r - 1) >= confidence (Wilks 1941). Null where n is too small.
 * Input: whole n of 0 or more. Errors: `stats.bad_count`, `stats.bad_probability`. Exact. Example: 59 values at 0.95 and
 * 0.95 give rank 59, 58 give none.
 */
export function orderRank(n: number, coverage = 0.95, confidence = 0.95): number | null {
  if (!Number.isInteger(n) || n < 0) throw new DomainError('stats.bad_count', { n });
  check(coverage, confidence);
  if (n === 0 || binomialCdf(n - 1, n, coverage) < confidence - TIE) return null;
  let low = 1;
  let high = n;
  while (low < high) {
    const r = (low + high) >> 1;
    if (binomialCdf(r - 1, n, coverage) >= confidence - TIE) high = r;
    else low = r + 1;
  }
  return low;
}

/** The least n with 1 - coverage^n >= confidence. */
function leastSize(coverage: number, confidence: number): number {
  const n = Math.log1p(-confidence) / Math.log(coverage);
  return Math.max(1, Math.ceil(n - TIE * Math.max(1, n)));
}

/**
 * The order-statistic bound of a sample, in its unit: the value at `orderRank`; without one, how many values are needed. Errors
 * as `orderRank`. Example: the largest of 59 values at 0.95 and 0.95; of 58 none, 59 are needed.
 */
export function orderUpperBound(values: ArrayLike<number>, coverage = 0.95, confidence = 0.95): UpperBound {
  const rank = orderRank(values.length, coverage, confidence);
  if (rank === null) {
    return {
      kind: 'none',
      reason: 'too_few',
      needed: leastSize(coverage, confidence),
    };
  }
  return { kind: 'order', value: sorted(values)[rank - 1]!, rank };
}
