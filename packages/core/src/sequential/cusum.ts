import { DomainError } from '../domain-error.ts';
import { endsOf } from './lattice.ts';
import { checkRates, type RatePair, requireShare } from './rates.ts';
import { requireOutcome } from './sprt.ts';

/** `deterioration`: Page's chart, failures rise. `learning`: LC-CUSUM, passes rise and a signal says competent. */
export type CusumForm = 'deterioration' | 'learning';
export interface CusumWeights {
  /** What a pass and a failure add. */
  readonly pass: number;
  readonly fail: number;
}
export interface CusumPath {
  readonly weights: CusumWeights;
  readonly path: readonly number[];
  /** Position (from 0) of the first value at or over h; null where there is none. */
  readonly signalAt: number | null;
}

/**
 * Log-likelihood weights: for deterioration ln(pBad / pGood) a failure and ln((1 - pBad) / (1 - pGood)) a pass (Page 1954),
 * for learning their negatives (Biau & Porcher 2010). Error: `sequential.bad_rates`. Example: 0.1 and 0.3, deterioration:
 * +1.0986 a failure, -0.2513 a pass.
 */
export function cusumWeights(rates: RatePair, form: CusumForm): CusumWeights {
  checkRates(rates);
  const fail = Math.log(rates.pBad / rates.pGood);
  const pass = Math.log((1 - rates.pBad) / (1 - rates.pGood));
  return form === 'deterioration' ? { pass, fail } : { pass: -pass, fail: -fail };
}

/**
 * The chart of outcomes (1 = failure): S = max(0, S + W), signal at the first S >= h; the path goes on after it (Page 1954). Errors: as
 * `cusumWeights`, `sequential.bad_outcome`, `sequential.bad_limit`. Example: three failures in a row by the weights above
 * reach 3.2958.
 */
export function cusumPath(
  outcomes: readonly number[],
  rates: RatePair,
  h: number,
  form: CusumForm,
): CusumPath {
  const weights = cusumWeights(rates, form);
  requireLimit(h);
  let sum = 0;
  let signalAt: number | null = null;
  const path = outcomes.map((x, at) => {
    requireOutcome(x, at);
    sum = Math.max(0, sum + (x === 1 ? weights.fail : weights.pass));
    if (signalAt === null && sum >= h * (1 - 1e-12)) signalAt = at;
    return sum;
  });
  return { weights, path, signalAt };
}

function requireLimit(h: number): void {
  if (!(h > 0) || h === Infinity) throw new DomainError('sequential.bad_limit', { h });
}

export type RunLength =
  | { readonly kind: 'none'; readonly reason: 'never' }
  | {
      readonly kind: 'run_length';
      /** Mean number of pieces to the signal, the signalling one counted. */
      readonly mean: number;
      /** Chance that a stretch from 0 reaches the limit before it falls back. */
      readonly perStretch: number;
    };

/**
 * Exact mean run length to the signal from 0 for a true failure rate: a stretch from 0 either reaches h or falls back to
 * 0, where it begins anew, so the mean is the expected stretch over its chance of reaching h (Wald's identity of a renewal, Page 1954). `never` where no number of
 * pieces reaches it. Input: rate from 0 to 1. Errors: as `cusumWeights`, `sequential.bad_limit`, `sequential.bad_share`.
 * Relative error under 1e-10. Example: 0.1 and 0.3, h = 1: one failure signals, so 1 / p.
 */
export function runLength(rates: RatePair, h: number, form: CusumForm, p: number): RunLength {
  const ends = stretchOf(rates, h, form, p);
  if (!(ends.reachesHigh > 0)) return { kind: 'none', reason: 'never' };
  return { kind: 'run_length', mean: ends.pieces / ends.reachesHigh, perStretch: ends.reachesHigh };
}

function stretchOf(rates: RatePair, h: number, form: CusumForm, p: number, most?: number) {
  requireShare(p);
  requireLimit(h);
  const { pass, fail } = cusumWeights(rates, form);
  // The chain's failure is what rises: a failure, or for learning a pass.
  const walk = form === 'deterioration' ? { up: fail, down: -pass, p } : { up: pass, down: -fail, p: 1 - p };
  return endsOf({ ...walk, high: h, low: 0 }, most);
}

/**
 * Chance that the signal has come by each number of pieces, from 1 to `pieces`: the renewal of stretches. Input and errors
 * as `runLength`, and `stats.bad_count` for pieces that are no whole number. Absolute error under 1e-12. Example: h = 1 as above at p = 0.2: 0.2, 0.36, 0.488.
 */
export function signalledBy(
  rates: RatePair,
  h: number,
  form: CusumForm,
  p: number,
  pieces: number,
): number[] {
  if (!Number.isInteger(pieces) || pieces < 1) throw new DomainError('stats.bad_count', { pieces });
  const { high, low } = stretchOf(rates, h, form, p, pieces);
  const at = new Float64Array(pieces + 1);
  for (let n = 1; n <= pieces; n++) {
    let chance = high[n - 1] ?? 0;
    for (let k = 1; k < n; k++) chance += (low[k - 1] ?? 0) * at[n - k]!;
    at[n] = chance;
  }
  let sum = 0;
  return Array.from(at.subarray(1), (v) => (sum += v));
}

export interface LimitFound {
  readonly h: number;
  readonly mean: number;
}
const CLOSE = 1e-6;

/**
 * The least h at which the mean run length to a false signal is at least the wanted: for deterioration that of a trainee of
 * pGood, for learning that of one of pBad. It rises in steps, so the mean found is mostly longer. Input: wanted mean of 1
 * and more, to 1e6. Errors: `sequential.bad_rates`, `sequential.bad_limit`. h to 1e-6. Example: 0.1 and 0.3, deterioration,
 * 100 pieces: h = 2 ln 3 = 2.1972, two failures with hardly a pass between.
 */
export function limitFor(rates: RatePair, form: CusumForm, wanted: number): LimitFound {
  if (!(wanted >= 1 && wanted <= 1e6)) throw new DomainError('sequential.bad_limit', { wanted });
  const p = form === 'deterioration' ? rates.pGood : rates.pBad;
  const meanAt = (h: number): number => {
    const found = runLength(rates, h, form, p);
    return found.kind === 'none' ? Infinity : found.mean;
  };
  let low = 0;
  let high = 1;
  while (meanAt(high) < wanted) [low, high] = [high, 2 * high];
  while (high - low > CLOSE * high) {
    const middle = (low + high) / 2;
    if (meanAt(middle) >= wanted) high = middle;
    else low = middle;
  }
  return { h: high, mean: meanAt(high) };
}
