import { normalQuantile } from '../../special/normal.ts';
import type { FaceCriteria } from './criteria.ts';
import { type FaceFeature, gradeFace } from './grade-face.ts';

const DRAWS = 512;
/** Standard uncertainty of the scale that all sizes share: a cladding is 125 um to 0.7 um or so (IEC 60793-2-50, from memory). */
export const SCALE_UNCERTAINTY = 0.0035;
/** Features that are drawn anew; more near a limit at once are taken as measured. */
const MOST = 16;

/**
 * The probability from 0 to 1 that a face passes a table, given how well its features are measured: sizes are drawn from
 * normal distributions of their uncertainties (half of the expanded one), the scale once for all of them, and each draw is
 * graded. Where a feature ends goes with its size. Draws are the points of an additive recurrence, evenly spread in every
 * dimension and the same each time; the result is true to about 0.02. What has no uncertainty is held. Sizes in um. Source of
 * the method: propagation of distributions, JCGM 101:2008. Example: a single defect of 5.0 um +- 0.4 um in zone B of the
 * multimode table, which allows 5 um, passes with about one half.
 */
export function passProbability(features: readonly FaceFeature[], table: FaceCriteria): number {
  const drawn = features
    .flatMap((f, i) => (f.uncertaintyUm !== undefined && f.uncertaintyUm > 0 ? [i] : []))
    .sort((a, b) => marginOf(features[a]!, table) - marginOf(features[b]!, table))
    .slice(0, MOST);
  if (drawn.length === 0) return gradeFace(features, table).verdict === 'pass' ? 1 : 0;
  const steps = stepsOf(drawn.length + 1);
  let passed = 0;
  for (let k = 1; k <= DRAWS; k++) {
    const z = steps.map((step) => normalQuantile((0.5 + k * step) % 1 || 0.5));
    const scale = 1 + SCALE_UNCERTAINTY * z[0]!;
    const moved = [...features];
    drawn.forEach((at, j) => {
      const f = features[at]!;
      const by = (f.uncertaintyUm! / 2) * z[j + 1]!;
      moved[at] = {
        ...f,
        sizeUm: Math.max(0.01, (f.sizeUm + by) * scale),
        nearestUm: Math.max(0, (f.nearestUm - by / 2) * scale),
        farthestUm: (f.farthestUm + by / 2) * scale,
      };
    });
    if (gradeFace(moved, table).verdict === 'pass') passed += 1;
  }
  return passed / DRAWS;
}

/** Under this and over one less this the grade is taken as it stands; between them it is near the limit. House. */
export const NEAR_LIMIT = 0.05;

/** A face whose grade may well be the other one, by what its picture shows. */
export const isNearLimit = (probability: number): boolean =>
  probability > NEAR_LIMIT && probability < 1 - NEAR_LIMIT;

/** How many of its uncertainties a feature lies off the nearest limit of its kind, of size or of place. */
function marginOf(f: FaceFeature, table: FaceCriteria): number {
  const limits = table.zones.flatMap((zone) => {
    const rule = f.kind === 'scratch' ? zone.scratches : zone.defects;
    const sizes = rule === 'no_limit' ? [] : rule.flatMap((b) => [b.fromUm, b.toUm]);
    return [
      ...sizes.map((s) => Math.abs(f.sizeUm - s)),
      Math.abs(2 * f.nearestUm - zone.toUm),
      Math.abs(2 * f.farthestUm - zone.fromUm),
    ];
  });
  return Math.min(...limits) / f.uncertaintyUm!;
}

/**
 * Steps of an additive recurrence in `d` dimensions: powers of the root of x^(d+1) = x + 1, after M. Roberts's generalised
 * golden ratio (2018, from memory).
 */
function stepsOf(d: number): number[] {
  let root = 2;
  for (let k = 0; k < 40; k++) root = (1 + root) ** (1 / (d + 1));
  return Array.from({ length: d }, (_, j) => root ** -(j + 1) % 1);
}
