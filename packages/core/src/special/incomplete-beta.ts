import { DomainError } from '../domain-error.ts';
import { binomialTerm } from './binomial-term.ts';
import { rootOf } from './root.ts';

/** A probability and what is left to 1, each to its own last digit. */
export interface Shares {
  readonly below: number;
  readonly above: number;
}

const TINY = 1e-300;

/**
 * Regularized incomplete beta function I_x(a, b) and 1 - I_x(a, b), by the continued fraction (DLMF 8.17.22, evaluated by
 * Lentz's method) on whichever side of the mean converges, its leading factor by the saddle-point expansion.
 * Input: 0 <= x <= 1, a and b above 0. Error: `stats.bad_beta`. Relative error of the smaller share under 1e-12 for a and b
 * to 1e5. Example: I_0.5(2, 3) = 0.6875.
 */
export function betaShare(x: number, a: number, b: number): Shares {
  if (!(x >= 0 && x <= 1) || !(a > 0) || !(b > 0) || a === Infinity || b === Infinity) {
    throw new DomainError('stats.bad_beta', { x, a, b });
  }
  if (x === 0) return { below: 0, above: 1 };
  if (x === 1) return { below: 1, above: 0 };
  if (x < a / (a + b)) {
    const below = leading(x, a, b) * fraction(x, a, b);
    return { below, above: 1 - below };
  }
  const above = leading(1 - x, b, a) * fraction(1 - x, b, a);
  return { below: 1 - above, above };
}

/** x^a (1 - x)^b / (a B(a, b)). */
const leading = (x: number, a: number, b: number): number => (binomialTerm(a, a + b, x, 1 - x) * b) / (a + b);

function fraction(x: number, a: number, b: number): number {
  let c = 1;
  let d = 1 - ((a + b) * x) / (a + 1);
  d = 1 / (Math.abs(d) < TINY ? TINY : d);
  let value = d;
  for (let m = 1; m < 100_000; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / guard(1 + even * d);
    c = guard(1 + even / c);
    value *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / guard(1 + odd * d);
    c = guard(1 + odd / c);
    value *= d * c;
    if (Math.abs(d * c - 1) < 1e-16) break;
  }
  return value;
}

const guard = (v: number): number => (Math.abs(v) < TINY ? TINY : v);

/**
 * The x at which I_x(a, b) = p, by the root of `betaShare`. Input: p from 0 to 1. Error: `stats.bad_beta`. Relative error under 1e-12 of the smaller of
 * x and 1 - x. Example: the median of (2, 3) is 0.38572757.
 */
export function betaQuantile(p: number, a: number, b: number): number {
  if (!(p >= 0 && p <= 1)) throw new DomainError('stats.bad_beta', { p, a, b });
  if (p === 0 || p === 1) return p;
  // On the scale of the logit both ends keep their digits.
  const at = (z: number): { x: number; y: number } => {
    const e = Math.exp(-Math.abs(z));
    const small = e / (1 + e);
    const large = 1 / (1 + e);
    return z < 0 ? { x: small, y: large } : { x: large, y: small };
  };
  const off = (z: number): number => {
    const { x, y } = at(z);
    const { below } = x < 0.5 ? betaShare(x, a, b) : flipped(betaShare(y, b, a));
    return below - p;
  };
  const z = rootOf(off, -745, 745);
  return at(z).x;
}

const flipped = ({ below, above }: Shares): Shares => ({ below: above, above: below });
