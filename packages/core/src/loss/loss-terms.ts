import { DomainError } from '../domain-error.ts';
import type { LinkUnderTest, LossRules } from '../sheet/index.ts';
import { countedConnections, countedEnds } from './counted-connections.ts';
import { expandedUncertaintyDb } from './uncertainty.ts';

/** What a link may lose, should lose and must lose at one wavelength; dB. */
export interface LossTerms {
  readonly wavelengthNm: number;
  readonly connections: number;
  readonly fiberDb: number;
  readonly connectionsDb: number;
  readonly splicesDb: number;
  readonly limitDb: number;
  readonly expectedDb: number;
  /** The fiber alone loses at least this. */
  readonly floorDb: number;
  readonly uncertaintyDb: number;
}

/**
 * Limit = length x coefficient (a stretch's own where it has one) + counted connections x allowance + splices x allowance; the expected loss of
 * good work and the floor of the fiber by the same sum. An end mated to a reference-grade cord has its own allowance
 * where the rules give one, and a limit set outright stands in place of the sum. Lengths in m, coefficients in dB/km.
 * Errors: `loss.no_coefficient` for a wavelength without one, `loss.bad_link` for a negative part.
 * Example: 2 m at 1.0 dB/km with one connection at 0.75 dB is 0.752 dB.
 */
export function lossTerms(link: LinkUnderTest, rules: LossRules, wavelengthNm: number): LossTerms {
  const coefficient = rules.fiberDbPerKm[wavelengthNm];
  const expected = rules.expectedFiberDbPerKm[wavelengthNm];
  const floor = rules.floorDbPerKm[wavelengthNm];
  if (coefficient === undefined || expected === undefined || floor === undefined) {
    throw new DomainError('loss.no_coefficient', { wavelengthNm, fiberClass: link.fiberClass });
  }
  if (!(link.lengthM >= 0) || !(link.matedPairs >= 0) || !(link.splices >= 0)) {
    throw new DomainError('loss.bad_link', { lengthM: link.lengthM });
  }
  const own = link.ownFiber ?? [];
  const ownM = own.reduce((sum, part) => sum + part.lengthM, 0);
  // Lengths are sums of the same parts, each rounded.
  if (ownM > link.lengthM * (1 + 1e-12) || own.some((part) => !(part.lengthM >= 0))) {
    throw new DomainError('loss.bad_link', { lengthM: link.lengthM });
  }
  const km = link.lengthM / 1000;
  const ownDb = own.reduce(
    (sum, part) => sum + (part.lengthM / 1000) * (part.dbPerKm[wavelengthNm] ?? coefficient.db),
    0,
  );
  const connections = countedConnections(link, rules.counts);
  const fiberDb = (Math.max(0, link.lengthM - ownM) / 1000) * coefficient.db + ownDb;
  const ends = rules.referenceEndDb ? countedEnds(link, rules.counts) : 0;
  const endsDb = ends * (rules.referenceEndDb?.db ?? 0);
  const connectionsDb = (connections - ends) * rules.connectionDb.db + endsDb;
  const splicesDb = link.splices * rules.spliceDb.db;
  return {
    wavelengthNm,
    connections,
    fiberDb,
    connectionsDb,
    splicesDb,
    limitDb: rules.limitDb?.db ?? fiberDb + connectionsDb + splicesDb,
    expectedDb:
      km * expected + connections * rules.expectedConnectionDb.db + link.splices * rules.expectedSpliceDb.db,
    floorDb: km * floor,
    uncertaintyDb: expandedUncertaintyDb(rules.uncertainty),
  };
}
