import { DomainError } from '../domain-error.ts';
import { integrate, normalDensity, normalShare } from '../special/index.ts';

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
    falseAccept,
    falseReject,
    bad: normalShare(edge).above,
    badOfAccepted: all > 0 ? falseAccept / all : null,
  };
}
