import { DomainError } from '../domain-error.ts';
import { checkRates, type RatePair } from './rates.ts';

export interface SprtPlan extends RatePair {
  readonly alpha: number;
  readonly beta: number;
}
export interface SprtBounds {
  /** What a piece costs on the path: x - s, x = 1 for a failure. */
  readonly s: number;
  /** At h1 and over unacceptable, at -h0 and under acceptable. */
  readonly h1: number;
  readonly h0: number;
}
export type SprtDecision = 'acceptable' | 'unacceptable';
export interface SprtPath {
  readonly bounds: SprtBounds;
  readonly path: readonly number[];
  /** Positions (from 0) of decisions. */
  readonly decisions: readonly { readonly at: number; readonly decision: SprtDecision }[];
}

/**
 * Bounds of Wald's sequential probability ratio test on failures (Wald 1947, section 5.3): P = ln(pBad / pGood),
 * Q = ln((1 - pGood) / (1 - pBad)), s = Q / (P + Q), h1 = ln((1 - beta) / alpha) / (P + Q),
 * h0 = ln((1 - alpha) / beta) / (P + Q). Errors: `sequential.bad_rates`, `sequential.bad_risks`. Relative error under 1e-14.
 * Example: 0.1 and 0.3 with risks 0.05 have s = 0.1862 and h = 2.181.
 */
export function sprtBounds({ pGood, pBad, alpha, beta }: SprtPlan): SprtBounds {
  checkRates({ pGood, pBad });
  if (!(alpha > 0 && beta > 0 && alpha + beta < 1))
    throw new DomainError('sequential.bad_risks', { alpha, beta });
  const p = Math.log(pBad / pGood);
  const q = Math.log((1 - pGood) / (1 - pBad));
  return {
    s: q / (p + q),
    h1: Math.log((1 - beta) / alpha) / (p + q),
    h0: Math.log((1 - alpha) / beta) / (p + q),
  };
}

/**
 * The path of outcomes (1 = failure) and its decisions: `running` goes on and tells each crossing of a bound, `restarting`
 * begins at 0 again after every decision (Wald 1947). Errors: as `sprtBounds`, `sequential.bad_outcome`. Example: three failures at
 * once by the plan above are unacceptable at the third.
 */
export function sprtPath(
  outcomes: readonly number[],
  plan: SprtPlan,
  form: 'running' | 'restarting',
): SprtPath {
  const bounds = sprtBounds(plan);
  const path: number[] = [];
  const decisions: { at: number; decision: SprtDecision }[] = [];
  let failures = 0;
  let passes = 0;
  let standing: SprtDecision | null = null;
  outcomes.forEach((x, at) => {
    requireOutcome(x, at);
    if (x === 1) failures += 1;
    else passes += 1;
    const sum = failures * (1 - bounds.s) - passes * bounds.s;
    path.push(sum);
    const now = sum >= bounds.h1 ? 'unacceptable' : sum <= -bounds.h0 ? 'acceptable' : null;
    if (now && now !== standing) decisions.push({ at, decision: now });
    standing = now;
    if (now && form === 'restarting') [failures, passes, standing] = [0, 0, null];
  });
  return { bounds, path, decisions };
}

/** Refuses an outcome that is neither 0 nor 1 (by definition). Error: `sequential.bad_outcome` with its place. Example: 2. */
export function requireOutcome(x: number, at: number): void {
  if (x !== 0 && x !== 1) throw new DomainError('sequential.bad_outcome', { at, x });
}
