import { DomainError } from '../domain-error.ts';
import { binomialTerm } from './binomial-term.ts';
import { betaShare } from './incomplete-beta.ts';

/**
 * Probability of exactly k successes of n (Loader 2000). Input: whole 0 <= k <= n, p from 0 to 1. Error: `stats.bad_binomial`.
 * Relative error under 1e-13. Example: 2 of 4 at 0.5 is 0.375.
 */
export function binomialPmf(k: number, n: number, p: number): number {
  check(n, p);
  if (!Number.isInteger(k) || k < 0 || k > n) return 0;
  return binomialTerm(k, n, p, 1 - p);
}

/**
 * Probability of at most k successes of n, by the incomplete beta function: 1 - I_p(k + 1, n - k) (DLMF 8.17.5). Input as `binomialPmf`;
 * under 0 it is 0, from n on 1. Relative error under 1e-12. Example: at most 1 of 4 at 0.5 is 0.3125.
 */
export function binomialCdf(k: number, n: number, p: number): number {
  check(n, p);
  const whole = Math.floor(k);
  if (whole < 0) return 0;
  if (whole >= n) return 1;
  return betaShare(p, whole + 1, n - whole).above;
}

function check(n: number, p: number): void {
  if (!Number.isInteger(n) || n < 0 || !(p >= 0 && p <= 1))
    throw new DomainError('stats.bad_binomial', { n, p });
}
