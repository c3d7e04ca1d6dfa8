import { DomainError, requireFinite } from '../domain-error.ts';

export interface Histogram {
  readonly from: number;
  readonly width: number;
  readonly counts: readonly number[];
}

/**
 * Counts in bins of equal width, by definition, whose edges are whole multiples of `width`; a value on an edge falls into
 * the upper bin, with 1e-9 of a width forgiven as binary dust. Each value counts as often as `times` says, once without it.
 * Null for no values.
 * Errors: `stats.bad_width`, `stats.not_finite`. Example: 0.1, 0.14, 0.2 by 0.1 is 2 from 0.1 and 1 from 0.2.
 */
export function histogram(
  values: ArrayLike<number>,
  width: number,
  times?: ArrayLike<number>,
): Histogram | null {
  if (!(width > 0) || !Number.isFinite(width)) throw new DomainError('stats.bad_width', { width });
  if (values.length === 0) return null;
  requireFinite(values);
  const bin = (x: number): number => Math.floor(x / width + 1e-9);
  let first = Infinity;
  let last = -Infinity;
  for (let i = 0; i < values.length; i++) {
    first = Math.min(first, bin(values[i]!));
    last = Math.max(last, bin(values[i]!));
  }
  if (last - first > 10_000) throw new DomainError('stats.bad_width', { width });
  const counts = new Array<number>(last - first + 1).fill(0);
  for (let i = 0; i < values.length; i++) counts[bin(values[i]!) - first]! += times ? times[i]! : 1;
  return { from: first * width, width, counts };
}
