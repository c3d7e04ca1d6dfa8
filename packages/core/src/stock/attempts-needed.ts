import { DomainError } from '../domain-error.ts';
import { logGamma } from '../special/index.ts';

/** What is known of how often a piece of a kind passes. */
export interface PassCount {
  readonly passed: number;
  readonly failed: number;
}
/** What is believed before anything was counted: the parameters of a beta distribution, both above 0. */
export interface PassPrior {
  readonly a: number;
  readonly b: number;
}
/** Jeffreys' prior: nothing is known. */
export const KNOWS_NOTHING: PassPrior = { a: 0.5, b: 0.5 };
/** So many pieces are those of other kinds worth for one of which little is known; house. */
const WORTH = 4;
/** What pieces of all kinds together say of one: their rate, counted as four pieces. */
export const priorOf = ({ passed, failed }: PassCount): PassPrior => {
  const rate = (passed + 0.5) / (passed + failed + 1);
  return { a: WORTH * rate, b: WORTH * (1 - rate) };
};
/** Nobody foresees more pieces than this for one that is wanted. */
const MOST_EACH = 200;

/**
 * The least number of attempts with which `wanted` of them pass, with probability `share` at least. Failures before the last wanted pass are
 * negative binomial; the pass rate is not known but has the beta distribution of what was counted and a prior (Jeffreys' unless another is given), so that their
 * law is the beta negative binomial: P(k failures) = C(k+r−1, k) · B(a+r, b+k) / B(a, b), a and b those of the prior and what passed and failed (Johnson, Kemp
 * and Kotz, Univariate Discrete Distributions, 6.2.2, from memory). Its tail is heavy where little was counted: not more than
 * 200 for each that is wanted is given. Errors: `stock.bad_counts` for counts that are negative or not whole, `stock.bad_share` for a share not between 0
 * and 1. Relative error of each term under 1e-12.
 *
 * Example: ten wanted, 90 of 100 passed before: 11 at a share of one half, 13 at 95 %.
 */
export function attemptsNeeded(
  wanted: number,
  { passed, failed }: PassCount,
  share: number,
  prior: PassPrior = KNOWS_NOTHING,
): number {
  for (const [name, value] of Object.entries({ wanted, passed, failed })) {
    if (!Number.isInteger(value) || value < 0) throw new DomainError('stock.bad_counts', { name, value });
  }
  if (!(share > 0 && share < 1)) throw new DomainError('stock.bad_share', { share });
  if (wanted === 0) return 0;
  const a = passed + prior.a;
  const b = failed + prior.b;
  const most = wanted * MOST_EACH;
  // P(0) = B(a + r, b) / B(a, b), and each term from the one before.
  let term = Math.exp(logGamma(a + wanted) + logGamma(a + b) - logGamma(a) - logGamma(a + b + wanted));
  let sum = term;
  let failures = 0;
  while (sum < share && wanted + failures < most) {
    term *= ((failures + wanted) / (failures + 1)) * ((b + failures) / (a + b + wanted + failures));
    sum += term;
    failures += 1;
  }
  return wanted + failures;
}
