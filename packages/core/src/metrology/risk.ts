import { DomainError } from '../domain-error.ts';
import { compileBand, judgeBand } from '../scoring/judge-band.ts';
import type { Verdict } from '../scoring/types.ts';
import type { Source } from '../sheet/types.ts';
import { integrate, normalDensity, normalShare } from '../special/index.ts';
import { parseDecimal } from '../units/index.ts';

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

/**
 * Chance that the true value of this one reading lies above the limit (the risk of accepting it) or not above it (of
 * rejecting it), nothing known beforehand: 1 - Phi((limit - reading) / u) (JCGM 106:2012, 7.2). Error:
 * `metrology.bad_uncertainty`. Relative error under 1e-13. Example: a reading one u under the limit: 0.1587.
 */
export function readingRisk(
  reading: number,
  limit: number,
  u: number,
): { accepted: number; rejected: number } {
  if (!Number.isFinite(reading) || !Number.isFinite(limit) || !(u > 0)) {
    throw new DomainError('metrology.bad_uncertainty', { reading, limit, u });
  }
  const { below, above } = normalShare((limit - reading) / u);
  return { accepted: above, rejected: below };
}

export interface ProcessRisk {
  /** Share of all that are bad and accepted, good and rejected. */
  readonly falseAccept: number;
  readonly falseReject: number;
  /** Share of all that are bad, and of the accepted ones that are. */
  readonly bad: number;
  readonly badOfAccepted: number | null;
}

/** Standard deviations beyond which hardly a piece lies, and where a reading is surely on one side. */
const REACH = 38;
const STEP = 9;

/**
 * Risks over a normal process read with a normal error: bad is above the limit, accepted is read at or under the limit less
 * the guard (JCGM 106:2012, 9.3 and 9.4), adaptive about the step where readings change sides. All in the unit of the
 * readings, u of any size beside the spread. Error: `metrology.bad_uncertainty`. Absolute error under 1e-13, relative
 * under 1e-10. Example: mean 0.5, SD 0.1, limit 0.75, u 0.05: 0.18 % bad and
 * accepted.
 */
export function processRisk(mean: number, sd: number, limit: number, u: number, guard = 0): ProcessRisk {
  if (![mean, limit, guard].every(Number.isFinite) || !(sd > 0) || !(u > 0)) {
    throw new DomainError('metrology.bad_uncertainty', { mean, sd, limit, u });
  }
  const edge = (limit - mean) / sd;
  const accept = limit - guard;
  const step = [-STEP, 0, STEP].map((k) => (accept - mean + k * u) / sd);
  const over = (from: number, to: number, share: (x: number) => number): number =>
    integrate((z) => normalDensity(z) * share(mean + sd * z), from, to, {
      breaks: [...step, -8, -4, 0, 4, 8],
      absolute: 1e-300,
      relative: 1e-12,
    }).value;
  const accepted = (x: number): number => normalShare((accept - x) / u).below;
  const rejected = (x: number): number => normalShare((accept - x) / u).above;
  const falseAccept = over(Math.max(edge, -REACH), REACH, accepted);
  const falseReject = over(-REACH, Math.min(edge, REACH), rejected);
  const all = normalShare((accept - mean) / Math.hypot(sd, u)).below;
  return {
    ...{ falseAccept, falseReject, bad: normalShare(edge).above },
    badOfAccepted: all > 0 ? falseAccept / all : null,
  };
}
