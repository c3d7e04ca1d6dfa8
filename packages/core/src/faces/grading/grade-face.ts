import type { FaceCriteria, FaceZone, FeatureKind, FeatureRule, SizeBand } from './criteria.ts';

/** A feature of an end face. Distances from the fiber's centre in um. */
export interface FaceFeature {
  readonly kind: FeatureKind;
  /** Width of a scratch, diameter of the smallest enclosing circle of a defect; um. */
  readonly sizeUm: number;
  readonly xUm: number;
  readonly yUm: number;
  /** Nearest and farthest that any part of it comes to the centre; um. */
  readonly nearestUm: number;
  readonly farthestUm: number;
  readonly lengthUm?: number;
  /** Expanded uncertainty of the size (k = 2), um; not given for what was put in by hand. */
  readonly uncertaintyUm?: number;
}

/** Why a zone fails: a feature that no band allows, or more than a band allows. */
export interface ZoneBreach {
  readonly kind: FeatureKind;
  /** Features by their place in the list that was graded. */
  readonly features: readonly number[];
  /** The band that holds too many; null where no band allows the size. */
  readonly band: SizeBand | null;
}
export interface ZoneGrade {
  readonly zone: FaceZone;
  readonly verdict: 'pass' | 'fail';
  readonly features: readonly number[];
  readonly breaches: readonly ZoneBreach[];
}
export interface FaceGrade {
  readonly verdict: 'pass' | 'fail';
  readonly zones: readonly ZoneGrade[];
}

/**
 * Grades the features of a face: a feature counts in every zone that any part of it touches, the lower edge of a zone
 * included; a zone passes when every rule of the table holds, the face when every zone does. Sizes in um; 1e-6 um of
 * binary dust is forgiven. Source of the rules: the table's own. Example: a 3.0 um scratch through zone B of a flat
 * single-mode face passes, one of 3.1 um does not, and any scratch in its zone A fails.
 */
export function gradeFace(features: readonly FaceFeature[], table: FaceCriteria): FaceGrade {
  const zones = table.zones.map((rule): ZoneGrade => {
    const touching = features.flatMap((f, i) =>
      2 * f.nearestUm < rule.toUm && 2 * f.farthestUm >= rule.fromUm ? [i] : [],
    );
    const of = (kind: FeatureKind): number[] => touching.filter((i) => features[i]!.kind === kind);
    const breaches = [
      ...breachesOf('scratch', of('scratch'), features, rule.scratches),
      ...breachesOf('defect', of('defect'), features, rule.defects),
    ];
    return { zone: rule.zone, verdict: breaches.length > 0 ? 'fail' : 'pass', features: touching, breaches };
  });
  return { verdict: zones.some((z) => z.verdict === 'fail') ? 'fail' : 'pass', zones };
}

const DUST_UM = 1e-6;

function fits(sizeUm: number, band: SizeBand): boolean {
  if (sizeUm < band.fromUm - DUST_UM) return false;
  return band.under ? sizeUm < band.toUm - DUST_UM : sizeUm <= band.toUm + DUST_UM;
}

function breachesOf(
  kind: FeatureKind,
  touching: readonly number[],
  features: readonly FaceFeature[],
  rule: FeatureRule,
): ZoneBreach[] {
  if (rule === 'no_limit') return [];
  const breaches: ZoneBreach[] = [];
  const held = new Map<SizeBand, number[]>();
  const outside: number[] = [];
  for (const i of touching) {
    const band = rule.find((b) => fits(features[i]!.sizeUm, b));
    if (!band) outside.push(i);
    else held.set(band, [...(held.get(band) ?? []), i]);
  }
  if (outside.length > 0) breaches.push({ kind, features: outside, band: null });
  for (const [band, inside] of held) {
    if (band.count !== null && inside.length > band.count) breaches.push({ kind, features: inside, band });
  }
  return breaches;
}
