import { DomainError } from '../domain-error.ts';
import type { Source } from '../sheet/types.ts';
import { parseDecimal } from '../units/index.ts';
import { compileBand, judgeBand } from './judge-band.ts';
import type { Verdict } from './types.ts';

/** The limits of a reading, in its unit; at least one. */
export interface Limits {
  readonly lower?: number;
  readonly upper?: number;
}

/**
 * Verdict of a reading against an upper limit, a lower one or both with expanded uncertainty U, by the rule that scores
 * sheets (`judgeBand`; ISO 14253-1, JCGM 106:2012), numbers of any sign taken to 12 decimals; a lower limit is the mirror of
 * an upper one, of two the worse counts. A number alone is an upper limit. Sizes under 1e15. Error:
 * `metrology.bad_uncertainty`, also for no limit or a lower above the upper. Example: 1.05 against an upper 1.0 with U 0.1
 * is a marginal fail, and so is -1.05 against a lower -1.0.
 */
export function guardedVerdict(reading: number, limits: number | Limits, expanded: number): Verdict {
  const { lower, upper } = typeof limits === 'number' ? { upper: limits } : limits;
  const given = [reading, lower, upper].filter((x) => x !== undefined);
  const apart = lower === undefined || upper === undefined || lower <= upper;
  const sizes = given.every((x) => Math.abs(x) < MOST_SIZE);
  if (given.length < 2 || !sizes || !apart || !(expanded >= 0 && expanded < MOST_SIZE)) {
    throw new DomainError('metrology.bad_uncertainty', { reading, expanded });
  }
  const limitOf = (x: number) => ({ value: x.toFixed(12), source: UNSOURCED });
  const band = {
    ...(lower === undefined ? {} : { lower: limitOf(lower) }),
    ...(upper === undefined ? {} : { upper: limitOf(upper) }),
  };
  // Of the units that may be negative, since a number has none.
  const compiled = compileBand(band, 'dB', { value: expanded.toFixed(12), source: UNSOURCED });
  return judgeBand(parseDecimal(reading.toFixed(12)), compiled).verdict;
}

/** From here on numbers have no 12 decimals any more. */
const MOST_SIZE = 1e15;
/** The limit is the caller's, and so is its source. */
const UNSOURCED: Source = { kind: 'house', fromMemory: false, words: '' };
