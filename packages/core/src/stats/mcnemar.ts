import { DomainError } from '../domain-error.ts';
import { binomialCdf } from '../special/index.ts';

/**
 * McNemar's exact test (McNemar 1947, with the binomial tail), two-sided: of the pairs that changed, how likely so uneven a split or a more uneven one is by
 * chance (twice the smaller binomial tail at 1/2, at most 1). Input: whole counts of pairs that changed one way and the
 * other; none of either gives 1. Error: `stats.bad_count`. Relative error under 1e-12. Example: 2 and 10 is 0.0386.
 */
export function mcnemarExact(oneWay: number, otherWay: number): number {
  for (const count of [oneWay, otherWay]) {
    if (!Number.isInteger(count) || count < 0) throw new DomainError('stats.bad_count', { count });
  }
  const n = oneWay + otherWay;
  if (n === 0) return 1;
  return Math.min(1, 2 * binomialCdf(Math.min(oneWay, otherWay), n, 0.5));
}
