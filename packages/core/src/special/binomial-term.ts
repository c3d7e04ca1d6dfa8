import { devianceTerm, stirlingError } from './stirling.ts';

const LOG_2PI = 1.8378770664093456;

/**
 * p^x q^(n - x) n! / (x! (n - x)!) for real 0 <= x <= n, q = 1 - p given for itself so that neither loses digits.
 * Source: Loader (2000), saddle-point expansion. Relative error under 1e-13.
 */
export function binomialTerm(x: number, n: number, p: number, q: number): number {
  if (p === 0) return x === 0 ? 1 : 0;
  if (q === 0) return x === n ? 1 : 0;
  if (x === 0)
    return n === 0 ? 1 : p < 0.1 ? Math.exp(-devianceTerm(n, n * q) - n * p) : Math.exp(n * Math.log(q));
  if (x === n) return q < 0.1 ? Math.exp(-devianceTerm(n, n * p) - n * q) : Math.exp(n * Math.log(p));
  if (x < 0 || x > n) return 0;
  const log =
    stirlingError(n) -
    stirlingError(x) -
    stirlingError(n - x) -
    devianceTerm(x, n * p) -
    devianceTerm(n - x, n * q);
  const root = LOG_2PI + Math.log(x) + Math.log1p(-x / n);
  return Math.exp(log - 0.5 * root);
}
