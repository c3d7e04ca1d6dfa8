import {
  type AddedFeature,
  type FaceReview,
  type GradedFace,
  type MeasuredFace,
  type MeasuredRow,
  type MeasuredFeature,
  type ReviewedFace,
} from '@clear-mark/core';

/** A feature as it is drawn and listed: the engine's by its number, an added one after them. */
export interface ShownFeature {
  /** Number that stands beside it in the drawing and in the table, from 1. */
  readonly number: number;
  readonly kind: 'scratch' | 'defect';
  readonly sizeUm: number;
  readonly uncertaintyUm: number | null;
  readonly xUm: number;
  readonly yUm: number;
  readonly lengthUm: number | null;
  /** Area of an engine's defect, um^2. */
  readonly areaUm2: number | null;
  readonly outlineUm: readonly (readonly [number, number])[];
  readonly rejected: boolean;
  /** Its kind was changed by the instructor. */
  readonly changed: boolean;
  /** Part of what fails a zone. */
  readonly decides: boolean;
  readonly zones: readonly string[];
  readonly origin:
    | { readonly by: 'engine'; readonly index: number }
    | { readonly by: 'hand'; readonly index: number };
}

/** All features of a face with what the review made of them, the largest of what decides first. */
export function shownFeatures(
  face: GradedFace,
  review: FaceReview,
  reviewed: ReviewedFace,
): readonly ShownFeature[] {
  const deciding = new Set(reviewed.grade.zones.flatMap((z) => z.breaches.flatMap((b) => b.features)));
  const place = new Map(reviewed.origin.map((origin, i) => [origin, i] as const));
  const zonesOf = (i: number): string[] =>
    reviewed.grade.zones.filter((z) => z.features.includes(i)).map((z) => z.zone);
  const own = face.features.map((feature, index): ShownFeature => {
    const i = place.get(index);
    const counted = i === undefined ? feature : reviewed.features[i]!;
    return {
      ...placeOf(feature),
      number: index + 1,
      kind: counted.kind,
      sizeUm: counted.sizeUm,
      uncertaintyUm: counted.kind === feature.kind ? feature.uncertaintyUm : null,
      lengthUm: counted.lengthUm ?? null,
      areaUm2: counted.kind === 'defect' && feature.kind === 'defect' ? feature.areaUm2 : null,
      rejected: i === undefined,
      changed: review.kinds.some((k) => k.feature === index),
      decides: i !== undefined && deciding.has(i),
      zones: i === undefined ? [] : zonesOf(i),
      origin: { by: 'engine', index },
    };
  });
  const first = reviewed.origin.length - review.added.length;
  const added = review.added.map((a, index): ShownFeature => {
    const counted = reviewed.features[first + index]!;
    return {
      number: face.features.length + index + 1,
      kind: a.kind,
      sizeUm: a.sizeUm,
      uncertaintyUm: null,
      xUm: counted.xUm,
      yUm: counted.yUm,
      lengthUm: counted.lengthUm ?? null,
      areaUm2: null,
      outlineUm: a.kind === 'scratch' ? [a.fromUm, a.toUm] : [],
      rejected: false,
      changed: false,
      decides: deciding.has(first + index),
      zones: zonesOf(first + index),
      origin: { by: 'hand', index },
    };
  });
  return [...own, ...added].sort(
    (a, b) =>
      Number(a.rejected) - Number(b.rejected) || Number(b.decides) - Number(a.decides) || a.number - b.number,
  );
}

const placeOf = ({ xUm, yUm, outlineUm }: MeasuredFeature) => ({ xUm, yUm, outlineUm });

/** A review with one thing changed. */
export function toggleRejected(review: FaceReview, feature: ShownFeature): FaceReview {
  if (feature.origin.by === 'hand') {
    const { index } = feature.origin;
    return { ...review, added: review.added.filter((_, i) => i !== index) };
  }
  const { index } = feature.origin;
  const rejected = review.rejected.includes(index)
    ? review.rejected.filter((i) => i !== index)
    : [...review.rejected, index];
  return { ...review, rejected };
}
export function toggleKind(review: FaceReview, feature: ShownFeature, face: GradedFace): FaceReview {
  if (feature.origin.by === 'hand') return review;
  const { index } = feature.origin;
  const kinds = review.kinds.filter((k) => k.feature !== index);
  const other = feature.kind === 'scratch' ? 'defect' : 'scratch';
  return {
    ...review,
    kinds: other === face.features[index]!.kind ? kinds : [...kinds, { feature: index, kind: other }],
  };
}

/** What two taps on the picture add: the ends of a defect's diameter, or of a scratch. */
export function addedBetween(
  kind: 'defect' | 'scratch',
  [x1, y1]: readonly [number, number],
  [x2, y2]: readonly [number, number],
  widthUm: number,
): AddedFeature | null {
  const apart = Math.hypot(x2 - x1, y2 - y1);
  if (apart < 0.2) return null;
  return kind === 'defect'
    ? { kind, xUm: (x1 + x2) / 2, yUm: (y1 + y2) / 2, sizeUm: apart }
    : { kind, fromUm: [x1, y1], toUm: [x2, y2], sizeUm: widthUm };
}

export const isGraded = (found: MeasuredFace | MeasuredRow | null): found is GradedFace =>
  found !== null && found.ok && 'grade' in found;
export const isRow = (found: MeasuredFace | MeasuredRow | null): found is MeasuredRow & { ok: true } =>
  found !== null && found.ok && 'fibers' in found;
