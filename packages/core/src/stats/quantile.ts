import { DomainError, requireFinite } from '../domain-error.ts';

/** The values in rising order, by definition, as a copy. Error: `stats.not_finite`. Example: 3, 1, 2 is 1, 2, 3. */
export function sorted(values: ArrayLike<number>): Float64Array {
  requireFinite(values);
  return Float64Array.from(values).sort();
}

/**
 * Quantile of values in rising order, type 7 (h = (n - 1)p) or type 6 (h = (n + 1)p - 1, clipped to the ends)
 * of Hyndman & Fan (1996). Input: p from 0 to 1. Errors: `stats.empty`, `stats.bad_probability`.
 * Exact at the order statistics, one rounding between them. Example: 1, 2, 3, 4 at 0.25 is 1.75 by type 7.
 */
export function quantileOfSorted(rising: ArrayLike<number>, p: number, type: 6 | 7 = 7): number {
  const n = rising.length;
  if (n === 0) throw new DomainError('stats.empty');
  if (!(p >= 0 && p <= 1)) throw new DomainError('stats.bad_probability', { p });
  const h = type === 7 ? (n - 1) * p : Math.min(n - 1, Math.max(0, (n + 1) * p - 1));
  const below = Math.floor(h);
  const low = rising[below]!;
  if (below === n - 1 || h === below) return low;
  return low + (h - below) * (rising[below + 1]! - low);
}

/** Median (type 7 at 0.5). Errors as `quantileOfSorted`. Example: 3, 1, 2 is 2. */
export function median(values: ArrayLike<number>): number {
  return quantileOfSorted(sorted(values), 0.5);
}

/**
 * `scaledMad` of values already in rising order, in one pass: their distances from the median rise on either side of it.
 * Errors: `stats.empty`. Example: 1, 2, 4 is 1.4826.
 */
export function scaledMadOfSorted(rising: ArrayLike<number>): number {
  const n = rising.length;
  const centre = quantileOfSorted(rising, 0.5);
  let left = Math.floor((n - 1) / 2);
  let right = Math.floor((n - 1) / 2) + 1;
  let one = 0;
  let other = 0;
  for (let taken = 0; taken <= n >> 1; taken++) {
    const below = left >= 0 ? centre - rising[left]! : Infinity;
    const above = right < n ? rising[right]! - centre : Infinity;
    one = other;
    other = Math.min(below, above);
    if (below <= above) left -= 1;
    else right += 1;
  }
  return 1.4826 * (n % 2 === 1 ? other : one + 0.5 * (other - one));
}

/**
 * Median absolute deviation from the median, times 1.4826, which makes it agree with the standard deviation of
 * normal data (Hampel 1974). Unit that of the values. Errors as `median`. Example: 1, 2, 4 is 1.4826.
 */
export function scaledMad(values: ArrayLike<number>): number {
  return scaledMadOfSorted(sorted(values));
}
