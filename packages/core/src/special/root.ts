import { DomainError } from '../domain-error.ts';

/**
 * Where a rising or falling function crosses 0 between two places at which its signs differ, by Brent's method (1973),
 * to the last digit of the place. Error: `stats.no_root` where the signs agree. Example: x^2 - 2 from 0 to 2 is sqrt 2.
 */
export function rootOf(f: (x: number) => number, from: number, to: number): number {
  let a = from;
  let b = to;
  let fa = f(a);
  let fb = f(b);
  if (fa === 0) return a;
  if (fb === 0) return b;
  if (fa > 0 === fb > 0 || Number.isNaN(fa) || Number.isNaN(fb))
    throw new DomainError('stats.no_root', { from, to });
  let c = a;
  let fc = fa;
  let step = b - a;
  let before = b - a;
  for (let round = 0; round < 300; round++) {
    if (fb > 0 === fc > 0) {
      [c, fc] = [a, fa];
      step = before = b - a;
    }
    if (Math.abs(fc) < Math.abs(fb)) {
      [a, b, c] = [b, c, b];
      [fa, fb, fc] = [fb, fc, fb];
    }
    const least = 2 * Number.EPSILON * Math.abs(b) + 1e-300;
    const half = (c - b) / 2;
    if (Math.abs(half) <= least || fb === 0) return b;
    if (Math.abs(before) >= least && Math.abs(fa) > Math.abs(fb)) {
      const s = fb / fa;
      let p = 2 * half * s;
      let q = 1 - s;
      if (a !== c) {
        const u = fa / fc;
        const v = fb / fc;
        p = s * (2 * half * u * (u - v) - (b - a) * (v - 1));
        q = (u - 1) * (v - 1) * (s - 1);
      }
      if (p > 0) q = -q;
      else p = -p;
      if (2 * p < Math.min(3 * half * q - Math.abs(least * q), Math.abs(before * q))) {
        before = step;
        step = p / q;
      } else step = before = half;
    } else step = before = half;
    [a, fa] = [b, fb];
    b += Math.abs(step) > least ? step : half > 0 ? least : -least;
    fb = f(b);
  }
  return b;
}

/**
 * Where a rising function crosses 0, from a place near it: steps out from there, each three times the last, until the signs
 * differ, then `rootOf`. Input: a step above 0. Error: `stats.no_root` after 200 steps. Example: x - 1000 from 0 by 1.
 */
export function rootFrom(f: (x: number) => number, near: number, step: number): number {
  let at = near;
  let value = f(near);
  if (value === 0) return at;
  let by = value > 0 ? -step : step;
  for (let round = 0; round < 200; round++) {
    const next = at + by;
    const nextValue = f(next);
    if (nextValue === 0 || nextValue > 0 !== value > 0)
      return rootOf(f, Math.min(at, next), Math.max(at, next));
    [at, value] = [next, nextValue];
    by *= 3;
  }
  throw new DomainError('stats.no_root', { from: near, to: at });
}
