import { DomainError } from '../domain-error.ts';
import { compileBand, judgeBand } from '../scoring/judge-band.ts';
import type { Verdict } from '../scoring/types.ts';
import type { Source } from '../sheet/types.ts';
import { GAUSS_16 } from '../special/gauss.ts';
import { normalDensity, normalShare } from '../special/index.ts';
import { parseDecimal } from '../units/index.ts';

/**
 * Verdict of a reading against an upper limit with expanded uncertainty U, by the rule that scores sheets (`judgeBand`; ISO
 * 14253-1, JCGM 106:2012), numbers taken to 12 decimals. A lower limit is mirrored by the signs. Error:
 * `metrology.bad_uncertainty`. Example: 1.05 against 1.0 with U 0.1 is a marginal fail.
 */
export function guardedVerdict(reading: number, limit: number, expanded: number): Verdict {
  if (!Number.isFinite(reading) || !Number.isFinite(limit) || !(expanded >= 0 && expanded < Infinity)) {
    throw new DomainError('metrology.bad_uncertainty', { reading, limit, expanded });
  }
  const [value, at, u] = [reading, limit, expanded].map((x) => x.toFixed(12)) as [string, string, string];
  const band = compileBand({ upper: { value: at, source: UNSOURCED } }, '1', { value: u, source: UNSOURCED });
  return judgeBand(parseDecimal(value), band).verdict;
}

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

const PANELS = 40;
const REACH = 9;

/**
 * Risks over a normal process read with a normal error: bad is above the limit, accepted is read at or under the limit less
 * the guard (JCGM 106:2012, 9.3 and 9.4), by 40 panels of 16 Gauss-Legendre points. All in the unit of the readings. Error:
 * `metrology.bad_uncertainty`. Absolute error under 1e-12. Example: mean 0.5, SD 0.1, limit 0.75, u 0.05: 0.18 % bad and
 * accepted.
 */
export function processRisk(mean: number, sd: number, limit: number, u: number, guard = 0): ProcessRisk {
  if (![mean, limit, guard].every(Number.isFinite) || !(sd > 0) || !(u > 0)) {
    throw new DomainError('metrology.bad_uncertainty', { mean, sd, limit, u });
  }
  const edge = (limit - mean) / sd;
  const accept = limit - guard;
  const over = (from: number, to: number, share: (x: number) => number): number => {
    if (!(to > from)) return 0;
    const half = (to - from) / PANELS / 2;
    let sum = 0;
    for (let panel = 0; panel < PANELS; panel++) {
      const middle = from + (2 * panel + 1) * half;
      for (const [x, w] of GAUSS_16) {
        for (const z of [middle - half * x, middle + half * x]) {
          sum += w * half * normalDensity(z) * share(mean + sd * z);
        }
      }
    }
    return sum;
  };
  const accepted = (x: number): number => normalShare((accept - x) / u).below;
  const rejected = (x: number): number => normalShare((accept - x) / u).above;
  const falseAccept = over(Math.max(edge, -REACH), Math.max(edge, -REACH) + 2 * REACH, accepted);
  const falseReject = over(Math.min(edge, REACH) - 2 * REACH, Math.min(edge, REACH), rejected);
  const all = normalShare((accept - mean) / Math.hypot(sd, u)).below;
  return {
    ...{ falseAccept, falseReject, bad: normalShare(edge).above },
    badOfAccepted: all > 0 ? falseAccept / all : null,
  };
}
