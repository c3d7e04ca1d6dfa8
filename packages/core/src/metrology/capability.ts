import { DomainError } from '../domain-error.ts';
import { noncentralT, normalQuantile, rootFrom } from '../special/index.ts';
import { mean, sampleSd } from '../stats/index.ts';

export type Capability =
  | { readonly kind: 'none'; readonly reason: 'too_few' | 'no_spread' }
  | {
      readonly kind: 'capability';
      readonly n: number;
      /** (limit - mean) / 3 s. */
      readonly index: number;
      /** The index is at least this, with the confidence. */
      readonly atLeast: number;
    };

/**
 * One-sided capability against an upper limit, (limit - mean) / 3 s, and its exact lower bound: 3 sqrt(n) times the index
 * is non-central t with n - 1 degrees of freedom (Kane 1986; Pearn & Lin 2004). Unit that of the values; n from 2. No answer
 * for fewer than two values or no spread. Errors: `stats.not_finite`, `stats.bad_probability`, `metrology.bad_limit`. Bound
 * to 1e-9. Example: 20 values with an index of 1.33 are at least 0.95 capable at 95 %.
 */
export function upperCapability(values: ArrayLike<number>, limit: number, confidence = 0.95): Capability {
  if (!Number.isFinite(limit)) throw new DomainError('metrology.bad_limit', { limit });
  if (!(confidence > 0 && confidence < 1)) throw new DomainError('stats.bad_probability', { p: confidence });
  const n = values.length;
  if (n < 2) return { kind: 'none', reason: 'too_few' };
  const sd = sampleSd(values)!;
  if (!(sd > 0)) return { kind: 'none', reason: 'no_spread' };
  const index = (limit - mean(values)) / (3 * sd);
  const t = 3 * Math.sqrt(n) * index;
  // The shift at which so large a t is still to be expected once in 1 / (1 - confidence).
  const off = (delta: number): number => confidence - noncentralT(t, n - 1, delta);
  const spread = Math.sqrt(1 + (t * t) / (2 * n));
  const delta = rootFrom(off, t - normalQuantile(confidence) * spread, spread);
  return { kind: 'capability', n, index, atLeast: delta / (3 * Math.sqrt(n)) };
}
