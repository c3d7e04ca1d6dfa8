import { DomainError } from '../../domain-error.ts';
import type { Call } from '../../scoring/index.ts';
import type { FaceCriteria, FeatureKind } from './criteria.ts';
import { type FaceFeature, type FaceGrade, gradeFace } from './grade-face.ts';

/** What an instructor changed of what the engine found. Features by their place in the engine's list. */
export interface FaceReview {
  readonly rejected: readonly number[];
  readonly kinds: readonly { readonly feature: number; readonly kind: FeatureKind }[];
  readonly added: readonly AddedFeature[];
  /** The instructor's own verdict, with the reason; null where the grade stands. */
  readonly verdict: { readonly says: Call; readonly reason: string } | null;
}
/** A feature put in by hand: a circle for a defect, a line of a width for a scratch; um from the fiber's centre. */
export type AddedFeature =
  | { readonly kind: 'defect'; readonly xUm: number; readonly yUm: number; readonly sizeUm: number }
  | {
      readonly kind: 'scratch';
      readonly fromUm: readonly [number, number];
      readonly toUm: readonly [number, number];
      readonly sizeUm: number;
    };

export const NO_REVIEW: FaceReview = { rejected: [], kinds: [], added: [], verdict: null };

export interface ReviewedFace {
  /** Those that count: not rejected, of the kind that the instructor says, and the added ones last. */
  readonly features: readonly FaceFeature[];
  /** Place of each in the engine's list; null for an added one. */
  readonly origin: readonly (number | null)[];
  readonly grade: FaceGrade;
  /** The instructor's verdict, or else the grade's. */
  readonly verdict: Call;
}

/**
 * The grade after the instructor's review. A scratch that is called a defect is graded by its length, the diameter that
 * encloses it; a defect that is called a scratch by its size, the widest that it could be. Errors: `face.bad_review` for a
 * feature that is not there, a size that is not positive, or an overriding verdict without a reason.
 */
export function reviewFace(
  found: readonly FaceFeature[],
  review: FaceReview,
  table: FaceCriteria,
): ReviewedFace {
  checkReview(found.length, review);
  const features: FaceFeature[] = [];
  const origin: (number | null)[] = [];
  found.forEach((feature, i) => {
    if (review.rejected.includes(i)) return;
    const said = review.kinds.find((k) => k.feature === i)?.kind ?? feature.kind;
    features.push(said === feature.kind ? feature : ofOtherKind(feature, said));
    origin.push(i);
  });
  for (const added of review.added) {
    features.push(placed(added));
    origin.push(null);
  }
  const grade = gradeFace(features, table);
  return { features, origin, grade, verdict: review.verdict?.says ?? grade.verdict };
}

/** Refuses a review that does not fit so many features. Error: `face.bad_review`. */
export function checkReview(features: number, review: FaceReview): void {
  const known = (i: number): boolean => Number.isInteger(i) && i >= 0 && i < features;
  const bad =
    review.rejected.some((i) => !known(i)) ||
    review.kinds.some((k) => !known(k.feature)) ||
    review.added.some((a) => !(a.sizeUm > 0) || !Number.isFinite(a.sizeUm)) ||
    (review.verdict !== null && review.verdict.reason.trim() === '');
  if (bad) throw new DomainError('face.bad_review', { features });
}

function ofOtherKind(feature: FaceFeature, kind: FeatureKind): FaceFeature {
  if (kind === 'scratch') return { ...feature, kind, lengthUm: feature.sizeUm };
  const { lengthUm, ...rest } = feature;
  return { ...rest, kind, sizeUm: Math.max(feature.sizeUm, lengthUm ?? 0) };
}

function placed(added: AddedFeature): FaceFeature {
  const half = added.sizeUm / 2;
  if (added.kind === 'defect') {
    const r = Math.hypot(added.xUm, added.yUm);
    const { xUm, yUm, sizeUm } = added;
    return { kind: 'defect', sizeUm, xUm, yUm, nearestUm: Math.max(0, r - half), farthestUm: r + half };
  }
  const [x1, y1] = added.fromUm;
  const [x2, y2] = added.toUm;
  const lengthUm = Math.hypot(x2 - x1, y2 - y1);
  // The nearest place of the segment to the centre.
  const t = lengthUm === 0 ? 0 : -(x1 * (x2 - x1) + y1 * (y2 - y1)) / lengthUm ** 2;
  const on = Math.max(0, Math.min(1, t));
  const nearest = Math.hypot(x1 + on * (x2 - x1), y1 + on * (y2 - y1));
  return {
    kind: 'scratch',
    sizeUm: added.sizeUm,
    xUm: (x1 + x2) / 2,
    yUm: (y1 + y2) / 2,
    lengthUm,
    nearestUm: Math.max(0, nearest - half),
    farthestUm: Math.max(Math.hypot(x1, y1), Math.hypot(x2, y2)) + half,
  };
}
