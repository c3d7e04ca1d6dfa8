import { rootOf } from '../special/index.ts';
import { endsOf } from './lattice.ts';
import { requireShare } from './rates.ts';
import { sprtBounds, type SprtPlan } from './sprt.ts';

export interface OperatingPoint {
  /** True failure rate. */
  readonly p: number;
  readonly acceptable: number;
  readonly unacceptable: number;
  /** Expected pieces until a decision. */
  readonly pieces: number;
}

/**
 * What a sequential test decides of a trainee with a true failure rate, and after how many pieces: exact, by the chain of
 * reachable sums rather than Wald's approximation, which leaves out by how much a bound is overshot (test of Wald 1947). Input: failure rate
 * from 0 to 1. Errors: as `sprtBounds`, `sequential.bad_share`. Absolute error under 1e-12. Example: 0.1 and 0.3, risks 0.05:
 * a trainee of 0.1 is called acceptable with 0.966.
 */
export function sprtOperating(plan: SprtPlan, p: number): OperatingPoint {
  requireShare(p);
  const { s, h1, h0 } = sprtBounds(plan);
  const ends = endsOf({ up: 1 - s, down: s, high: h1, low: -h0, p });
  return { p, acceptable: ends.reachesLow, unacceptable: ends.reachesHigh, pieces: ends.pieces };
}

/** Terms of a sum this small are as good as none: the path has no drift. */
const NO_DRIFT = 1e-9;

/**
 * The same by Wald's approximation (Wald 1947, sections 3.4 and 3.5), as tables and other programs give it: the bounds are
 * taken as met exactly, so that a test decides a little sooner than it can. Pieces are (L down + (1 - L) up) / drift, at no
 * drift up times down over the variance of a step. Input: failure rate above 0 and under 1. Errors: as `sprtOperating`.
 * Relative error under 1e-9. Example: 0.1 and 0.3, risks 0.05 and 0.1: 17.1 pieces at 0.1, 22.3 at 0.15.
 */
export function waldOperating(plan: SprtPlan, p: number): OperatingPoint {
  requireShare(p);
  const { pGood, pBad, alpha, beta } = plan;
  sprtBounds(plan);
  const up = Math.log((1 - beta) / alpha);
  const down = Math.log(beta / (1 - alpha));
  const failed = Math.log(pBad / pGood);
  const passed = Math.log((1 - pBad) / (1 - pGood));
  const drift = p * failed + (1 - p) * passed;
  if (p === 0 || p === 1) {
    const pieces = p === 0 ? down / passed : up / failed;
    return { p, acceptable: 1 - p, unacceptable: p, pieces };
  }
  if (Math.abs(drift) < NO_DRIFT) {
    const variance = p * failed ** 2 + (1 - p) * passed ** 2;
    return {
      p,
      acceptable: up / (up - down),
      unacceptable: -down / (up - down),
      pieces: (-up * down) / variance,
    };
  }
  // The other root of p e^(h failed) + (1 - p) e^(h passed) = 1, whose sign is against the drift.
  const off = (h: number): number => p * Math.expm1(h * failed) + (1 - p) * Math.expm1(h * passed);
  const side = drift < 0 ? 1 : -1;
  let far = side;
  while (off(far) <= 0) far *= 2;
  let near = far / 2;
  while (off(near) > 0) near /= 2;
  const h = rootOf(off, near, far);
  const acceptable = Math.expm1(h * up) / (Math.exp(h * up) - Math.exp(h * down));
  return {
    p,
    acceptable,
    unacceptable: 1 - acceptable,
    pieces: (acceptable * down + (1 - acceptable) * up) / drift,
  };
}
