import { DomainError } from '../domain-error.ts';

export interface Counted {
  readonly k: number;
  readonly n: number;
}
export interface PChartPoint {
  readonly k: number;
  readonly n: number;
  /** Null where nothing was counted. */
  readonly share: number | null;
  readonly low: number;
  readonly high: number;
  readonly out: boolean;
}
export type PChart =
  | { readonly kind: 'none'; readonly reason: 'empty' }
  | { readonly kind: 'chart'; readonly centre: number; readonly points: readonly PChartPoint[] };

/**
 * p chart of shares of different numbers: centre all k over all n, limits -+ 3 sqrt(p (1 - p) / n) by each n, clipped to 0
 * and 1 (NIST/SEMATECH e-Handbook 6.3.3.2). Out is strictly outside, with a slack of 1e-9. Input: whole 0 <= k <= n, in
 * order of time; a point without outcomes has no share. Error: `stats.bad_count`. Example: 12 of 50 where all is 0.2313
 * lies between 0.0524 and 0.4102.
 */
export function pChart(counted: readonly Counted[]): PChart {
  let all = 0;
  let passed = 0;
  for (const { k, n } of counted) {
    if (!Number.isInteger(k) || !Number.isInteger(n) || k < 0 || n < k)
      throw new DomainError('stats.bad_count', { k, n });
    all += n;
    passed += k;
  }
  if (all === 0) return { kind: 'none', reason: 'empty' };
  const centre = passed / all;
  const points = counted.map(({ k, n }): PChartPoint => {
    if (n === 0) return { k, n, share: null, low: 0, high: 1, out: false };
    const reach = 3 * Math.sqrt((centre * (1 - centre)) / n);
    const low = Math.max(0, centre - reach);
    const high = Math.min(1, centre + reach);
    const share = k / n;
    return { k, n, share, low, high, out: share < low - 1e-9 || share > high + 1e-9 };
  });
  return { kind: 'chart', centre, points };
}
