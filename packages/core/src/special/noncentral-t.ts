import { DomainError } from '../domain-error.ts';
import { GAUSS_16 } from './gauss.ts';
import { normalShare } from './normal.ts';
import { rootOf } from './root.ts';
import { devianceTerm, stirlingError } from './stirling.ts';

/** Panels of the integral, and how far it reaches in standard deviations of the square root of a chi-square. */
const PANELS = 24;
const REACH = 11;

/**
 * Non-central t distribution function: P((Z + delta) / sqrt(chi2 / freedom) <= t), as the integral of Phi(t u - delta) over
 * the density of u = sqrt(chi2 / freedom), by 24 panels of 16 Gauss-Legendre points. Input: freedom of 1 or more, delta of
 * any size (series fail beyond 37). Error: `stats.bad_freedom`. Absolute error under 1e-13. Example: t = 2, 10 degrees,
 * delta 1 gives 0.8076.
 */
export function noncentralT(t: number, freedom: number, delta: number): number {
  if (!(freedom >= 1) || freedom === Infinity) throw new DomainError('stats.bad_freedom', { freedom });
  let sum = 0;
  for (const { u, weight } of nodesOf(freedom)) sum += weight * normalShare(t * u - delta).below;
  return Math.min(1, Math.max(0, sum));
}

interface Node {
  readonly u: number;
  readonly weight: number;
}
const kept = new Map<number, readonly Node[]>();

/** Places and weights of the density of sqrt(chi2 / freedom); kept, since a search asks for them again and again. */
function nodesOf(freedom: number): readonly Node[] {
  const known = kept.get(freedom);
  if (known) return known;
  const spread = 1 / Math.sqrt(2 * freedom);
  const [from, to] = [Math.max(0, 1 - REACH * spread), 1 + REACH * spread];
  const half = (to - from) / PANELS / 2;
  const nodes: Node[] = [];
  for (let panel = 0; panel < PANELS; panel++) {
    const middle = from + (2 * panel + 1) * half;
    for (const [x, w] of GAUSS_16) {
      for (const u of [middle - half * x, middle + half * x])
        nodes.push({ u, weight: w * half * chiDensity(u, freedom) });
    }
  }
  if (kept.size > 64) kept.clear();
  kept.set(freedom, nodes);
  return nodes;
}

/** Density of sqrt(chi2 / freedom) at u, through the saddle-point form of the gamma density. */
function chiDensity(u: number, freedom: number): number {
  if (u <= 0) return 0;
  const a = freedom / 2;
  const x = a * u * u;
  // x^a e^-x / Gamma(a + 1) times a, times dx / (x du) = 2 / u.
  return (Math.exp(-stirlingError(a) - devianceTerm(a, x)) / Math.sqrt(2 * Math.PI * a)) * a * (2 / u);
}

/**
 * The t that leaves p below it. Input: p above 0 and under 1. Errors as `noncentralT`, `stats.bad_probability`. Relative
 * error under 1e-11. Example: p 0.95, 9 degrees, delta 1.645 sqrt 10 gives 2.911 sqrt 10.
 */
export function noncentralTQuantile(p: number, freedom: number, delta: number): number {
  if (!(p > 0 && p < 1)) throw new DomainError('stats.bad_probability', { p });
  let reach = 10 + Math.abs(delta);
  const off = (t: number): number => noncentralT(t, freedom, delta) - p;
  while (off(-reach) > 0 || off(reach) < 0) reach *= 4;
  return rootOf(off, -reach, reach);
}
