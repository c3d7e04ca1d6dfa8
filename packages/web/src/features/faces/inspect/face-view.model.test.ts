import {
  faceCriteria,
  type GradedFace,
  gradeFace,
  type MeasuredFeature,
  NO_REVIEW,
  reviewFace,
} from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import {
  addedBetween,
  isGraded,
  isRow,
  shownFeatures,
  toggleKind,
  toggleRejected,
} from './face-view.model.ts';

const PC = faceCriteria('sm-pc')!;
const feature = (kind: 'scratch' | 'defect', sizeUm: number, xUm: number): MeasuredFeature => ({
  kind,
  sizeUm,
  xUm,
  yUm: 0,
  nearestUm: xUm - sizeUm / 2,
  farthestUm: xUm + sizeUm / 2,
  uncertaintyUm: 0.2,
  areaUm2: 4,
  contrast: 8,
  outlineUm: [],
  ...(kind === 'scratch' ? { lengthUm: 20 } : {}),
});
const features = [feature('scratch', 1, 40), feature('defect', 7, 30), feature('defect', 1.5, 20)];
const face: GradedFace = {
  ok: true,
  umPerPx: 0.3,
  centrePx: [320, 240],
  claddingDiameterPx: 416,
  blurUm: 0.4,
  contactSeen: 1,
  core: { class: 'single_mode', radiusUm: 4 },
  features,
  grade: gradeFace(features, PC),
};
const shown = (review = NO_REVIEW) => shownFeatures(face, review, reviewFace(features, review, PC));

describe('features as they are shown', () => {
  it('what decides comes first, numbers stay those of the drawing', () => {
    expect(shown().map((f) => [f.number, f.decides, f.zones.join('')])).toEqual([
      [2, true, 'B'],
      [1, false, 'B'],
      [3, false, 'B'],
    ]);
  });
  it('a rejected one goes last and decides nothing; rejected again it is back', () => {
    const without = toggleRejected(NO_REVIEW, shown()[0]!);
    expect(without.rejected).toEqual([1]);
    expect(shown(without).at(-1)).toMatchObject({ number: 2, rejected: true, decides: false });
    expect(toggleRejected(without, shown(without).at(-1)!).rejected).toEqual([]);
  });
  it('of the other kind it is marked so, and back again it is not', () => {
    const scratch = shown().find((f) => f.number === 1)!;
    const other = toggleKind(NO_REVIEW, scratch, face);
    expect(shown(other).find((f) => f.number === 1)).toMatchObject({
      kind: 'defect',
      sizeUm: 20,
      changed: true,
      decides: true,
      uncertaintyUm: null,
    });
    expect(
      toggleKind(
        other,
        shown(other).find((f) => f.number === 1)!,
        face,
      ).kinds,
    ).toEqual([]);
  });
  it('an added one has its own number and is taken away again', () => {
    const added = addedBetween('defect', [4, 0], [8, 0], 1)!;
    const review = { ...NO_REVIEW, added: [added] };
    const mine = shown(review).find((f) => f.origin.by === 'hand')!;
    expect(mine).toMatchObject({ number: 4, sizeUm: 4, xUm: 6, decides: true, zones: ['A'] });
    expect(toggleRejected(review, mine).added).toEqual([]);
    expect(addedBetween('scratch', [0, 0], [10, 0], 1.2)).toMatchObject({ kind: 'scratch', sizeUm: 1.2 });
    expect(addedBetween('defect', [4, 0], [4.1, 0], 1)).toBeNull();
  });
  it('tells a face from a row and from a refusal', () => {
    expect([isGraded(face), isRow(face)]).toEqual([true, false]);
    expect(isGraded({ ok: false, reason: 'no_face' })).toBe(false);
    expect(isRow({ ok: true, fibers: [], verdict: null })).toBe(true);
    expect([isGraded(null), isRow(null)]).toEqual([false, false]);
  });
});
