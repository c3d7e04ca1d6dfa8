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
 * reachable sums rather than Wald's approximation, which leaves out by how much a bound is overshot. Input: failure rate
 * from 0 to 1. Errors: as `sprtBounds`, `sequential.bad_share`. Absolute error under 1e-12. Example: 0.1 and 0.3, risks 0.05:
 * a trainee of 0.1 is called acceptable with 0.966.
 */
export function sprtOperating(plan: SprtPlan, p: number): OperatingPoint {
  requireShare(p);
  const { s, h1, h0 } = sprtBounds(plan);
  const ends = endsOf({ up: 1 - s, down: s, high: h1, low: -h0, p });
  return { p, acceptable: ends.reachesLow, unacceptable: ends.reachesHigh, pieces: ends.pieces };
}
