import { DomainError } from '../domain-error.ts';
import type { Shares } from './incomplete-beta.ts';
import { devianceTerm, stirlingError } from './stirling.ts';

const TWO_PI = 2 * Math.PI;

/**
 * Regularized incomplete gamma functions P(a, x) and Q(a, x): the series (DLMF 8.11.4) under a + 1, the continued fraction
 * (DLMF 8.9.2, Lentz's method) above. Input: a above 0, x of 0 or more. Error: `stats.bad_gamma`. Relative error of either
 * under 1e-12 for a to 1e4. Example: P(1, 1) = 1 - 1/e.
 */
export function gammaShare(a: number, x: number): Shares {
  if (!(a > 0) || !(x >= 0) || a === Infinity) throw new DomainError('stats.bad_gamma', { a, x });
  if (x === 0) return { below: 0, above: 1 };
  if (x === Infinity) return { below: 1, above: 0 };
  // x^a e^-x / Gamma(a + 1), by the saddle-point expansion.
  const leading = Math.exp(-stirlingError(a) - devianceTerm(a, x)) / Math.sqrt(TWO_PI * a);
  if (x < a + 1) {
    let term = 1;
    let sum = 1;
    for (let n = 1; n < 100_000 && term > 1e-17 * sum; n++) sum += term *= x / (a + n);
    const below = leading * sum;
    return { below, above: 1 - below };
  }
  let b = x + 1 - a;
  let c = 1e300;
  let d = 1 / b;
  let value = d;
  for (let n = 1; n < 100_000; n++) {
    const an = -n * (n - a);
    b += 2;
    d = 1 / (an * d + b);
    c = b + an / c;
    value *= d * c;
    if (Math.abs(d * c - 1) < 1e-16) break;
  }
  const above = leading * a * value;
  return { below: 1 - above, above };
}
