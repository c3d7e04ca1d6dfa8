import { DomainError } from '../domain-error.ts';
import { integrate } from './integrate.ts';
import { normalQuantile, normalShare } from './normal.ts';
import { rootFrom } from './root.ts';
import { devianceTerm, stirlingError } from './stirling.ts';

/** How far the integral reaches, in standard deviations of the square root of a chi-square; beyond lies under 1e-18. */
const REACH = 11;
/** Where the normal share has gone from 0 to 1: beyond this many standard deviations it is either, to the last digit. */
const STEP = 9;

/**
 * Non-central t distribution function (Owen 1968): P((Z + delta) / sqrt(chi2 / freedom) <= t), as the integral of Phi(t u - delta) over
 * the density of u = sqrt(chi2 / freedom), adaptive about the step of Phi, which is narrow where t is large. Input: freedom
 * of 1 or more, delta of any size (series fail beyond 37). Errors: `stats.bad_freedom`, `stats.not_finite`. Absolute error
 * under 1e-13. Example: t = 2, 10 degrees, delta 1 gives 0.8076.
 */
export function noncentralT(t: number, freedom: number, delta: number): number {
  if (!(freedom >= 1) || freedom === Infinity) throw new DomainError('stats.bad_freedom', { freedom });
  if (!Number.isFinite(t) || !Number.isFinite(delta)) throw new DomainError('stats.not_finite', { index: 0 });
  const spread = 1 / Math.sqrt(2 * freedom);
  const from = Math.max(0, 1 - REACH * spread);
  const to = 1 + REACH * spread;
  const places = t === 0 ? [] : [-STEP, 0, STEP].map((z) => (delta + z) / t);
  const { value } = integrate((u) => chiDensity(u, freedom) * normalShare(t * u - delta).below, from, to, {
    breaks: [...places, 1],
    absolute: 2e-15,
  });
  return Math.min(1, Math.max(0, value));
}

/** Density of sqrt(chi2 / freedom) at u, through the saddle-point form of the gamma density. */
function chiDensity(u: number, freedom: number): number {
  const a = freedom / 2;
  const scale = (2 * a * Math.exp(-stirlingError(a))) / Math.sqrt(2 * Math.PI * a);
  if (u <= 0) return freedom === 1 ? scale * Math.exp(a) : 0;
  // Near 1 without the cancellation of 2 log u + 1 - u^2; near 0 without squares that are none any more.
  if (u > 0.5) return (scale * Math.exp(-devianceTerm(a, a * u * u))) / u;
  return scale * Math.exp((freedom - 1) * Math.log(u) + a * (1 - u * u));
}

/**
 * The t that leaves p below it. Input: p above 0 and under 1. Errors as `noncentralT`, `stats.bad_probability`. Relative
 * error under 1e-10 for p from 0.5 to 0.999. Example: p 0.95, 9 degrees, delta 1.645 sqrt 10 gives 2.911 sqrt 10.
 */
export function noncentralTQuantile(p: number, freedom: number, delta: number): number {
  if (!(p > 0 && p < 1)) throw new DomainError('stats.bad_probability', { p });
  const spread = Math.sqrt(1 + (delta * delta) / (2 * freedom));
  return rootFrom((t) => noncentralT(t, freedom, delta) - p, delta + normalQuantile(p) * spread, spread);
}
