import { DomainError } from '../domain-error.ts';
import { betaShare, type Shares } from './incomplete-beta.ts';
import { normalQuantile } from './normal.ts';
import { rootOf } from './root.ts';

/**
 * Student's t distribution function (Student 1908) and what is left to 1, by the incomplete beta function (DLMF 8.17) on the side that keeps its
 * digits. Input: degrees of freedom above 0, not necessarily whole. Error: `stats.bad_freedom`. Relative error of the
 * smaller under 1e-12. Example: t = 2.228138852 with 10 degrees leaves 0.025 above.
 */
export function studentShare(t: number, freedom: number): Shares {
  if (!(freedom > 0) || freedom === Infinity || Number.isNaN(t))
    throw new DomainError('stats.bad_freedom', { freedom });
  if (Math.abs(t) === Infinity) return t < 0 ? { below: 0, above: 1 } : { below: 1, above: 0 };
  const square = t * t;
  const share = freedom / (freedom + square);
  const tail =
    square > freedom
      ? betaShare(share, freedom / 2, 0.5).below / 2
      : betaShare(square / (freedom + square), 0.5, freedom / 2).above / 2;
  return t < 0 ? { below: tail, above: 1 - tail } : { below: 1 - tail, above: tail };
}

/** Two-sided p of a t statistic. Errors and accuracy as `studentShare`. Example: 2.228138852 with 10 degrees is 0.05. */
export const studentTwoSided = (t: number, freedom: number): number =>
  Math.min(1, 2 * studentShare(-Math.abs(t), freedom).below);

/**
 * The t that leaves p below it, by `betaQuantile`. Input: p above 0 and under 1. Errors: `stats.bad_probability`,
 * `stats.bad_freedom`.
 * Relative error under 1e-12. Example: 0.975 with 10 degrees is 2.228138852.
 */
export function studentQuantile(p: number, freedom: number): number {
  if (!(p > 0 && p < 1)) throw new DomainError('stats.bad_probability', { p });
  if (!(freedom > 0)) throw new DomainError('stats.bad_freedom', { freedom });
  if (p === 0.5) return 0;
  const small = Math.min(p, 1 - p);
  // On a logarithmic scale, since a tail of few degrees of freedom reaches far.
  const off = (u: number): number => studentShare(-Math.exp(u), freedom).below - small;
  const t = Math.exp(rootOf(off, Math.log(-normalQuantile(small)) - 40, 700));
  return p < 0.5 ? -t : t;
}
