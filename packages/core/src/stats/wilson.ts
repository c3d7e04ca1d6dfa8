import { DomainError } from '../domain-error.ts';

/** The 0.975 quantile of the standard normal distribution, correctly rounded. */
export const Z95 = 1.959963984540054;

export type Rate =
  | { readonly kind: 'none' }
  | {
      readonly kind: 'rate';
      readonly k: number;
      readonly n: number;
      readonly share: number;
      readonly low: number;
      readonly high: number;
    };

/**
 * A proportion with its 95 % Wilson score interval without continuity correction (Wilson 1927; method 3 of
 * Newcombe 1998): (2np + z^2 -+ z sqrt(z^2 + 4np(1 - p))) / (2(n + z^2)), clipped to exactly 0 and 1 at k = 0
 * and k = n.
 * Input: whole k and n, 0 <= k <= n. n = 0 is `none`: no rate. Error: `stats.bad_count`.
 * Relative error under 1e-14. Example: 81 of 263 is 0.3080, from 0.2553 to 0.3662.
 */
export function wilsonRate(k: number, n: number, z: number = Z95): Rate {
  if (!Number.isInteger(k) || !Number.isInteger(n) || k < 0 || n < k) {
    throw new DomainError('stats.bad_count', { k, n });
  }
  if (n === 0) return { kind: 'none' };
  const z2 = z * z;
  const middle = 2 * k + z2;
  const spread = z * Math.sqrt(z2 + (4 * k * (n - k)) / n);
  const scale = 2 * (n + z2);
  return {
    kind: 'rate',
    k,
    n,
    share: k / n,
    low: k === 0 ? 0 : (middle - spread) / scale,
    high: k === n ? 1 : (middle + spread) / scale,
  };
}
