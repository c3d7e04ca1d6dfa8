import { describe, expect, it } from 'vitest';
import {
  compareFaces,
  type FaceFeature,
  faceCriteria,
  type FaceReview,
  NO_REVIEW,
  reviewFace,
} from '../index.ts';

const PC = faceCriteria('sm-pc')!;
const feature = (kind: FaceFeature['kind'], sizeUm: number, xUm: number, more: object = {}): FaceFeature => ({
  kind,
  sizeUm,
  xUm,
  yUm: 0,
  nearestUm: Math.abs(xUm) - sizeUm / 2,
  farthestUm: Math.abs(xUm) + sizeUm / 2,
  ...more,
});
const review = (more: Partial<FaceReview>): FaceReview => ({ ...NO_REVIEW, ...more });

describe('the instructor’s review of a grade', () => {
  const found = [feature('defect', 7, 30), feature('scratch', 2, -40, { lengthUm: 20 })];
  it('without one the grade stands', () => {
    expect(reviewFace(found, NO_REVIEW, PC)).toMatchObject({
      verdict: 'fail',
      features: found,
      origin: [0, 1],
    });
  });
  it('a rejected feature counts no more', () => {
    expect(reviewFace(found, review({ rejected: [0] }), PC)).toMatchObject({ verdict: 'pass', origin: [1] });
  });
  it('of the other kind it is graded by the other size', () => {
    const asDefect = reviewFace(
      found,
      review({ rejected: [0], kinds: [{ feature: 1, kind: 'defect' }] }),
      PC,
    );
    expect(asDefect.features[0]).toMatchObject({ kind: 'defect', sizeUm: 20 });
    expect(asDefect.verdict).toBe('fail');
    const asScratch = reviewFace(found, review({ kinds: [{ feature: 0, kind: 'scratch' }] }), PC);
    expect(asScratch.features[0]).toMatchObject({ kind: 'scratch', sizeUm: 7, lengthUm: 7 });
  });
  it('an added scratch is in the zones that it crosses, an added defect where it lies', () => {
    const through = { kind: 'scratch', fromUm: [-30, 5], toUm: [30, 5], sizeUm: 1 } as const;
    const { grade } = reviewFace([], review({ added: [through] }), PC);
    expect(grade.zones.filter((z) => z.features.length > 0).map((z) => z.zone)).toEqual(['A', 'B']);
    expect(grade.verdict).toBe('fail');
    const spot = { kind: 'defect', xUm: 90, yUm: 0, sizeUm: 12 } as const;
    expect(reviewFace([], review({ added: [spot] }), PC).grade.zones[3]).toMatchObject({ verdict: 'fail' });
  });
  it('the instructor’s word is above the grade, with a reason', () => {
    const says = { says: 'pass', reason: 'wiped off at the second look' } as const;
    expect(reviewFace(found, review({ verdict: says }), PC)).toMatchObject({
      verdict: 'pass',
      grade: { verdict: 'fail' },
    });
  });
  it.each<[Partial<FaceReview>]>([
    [{ rejected: [2] }],
    [{ kinds: [{ feature: -1, kind: 'scratch' }] }],
    [{ added: [{ kind: 'defect', xUm: 0, yUm: 0, sizeUm: 0 }] }],
    [{ verdict: { says: 'pass', reason: ' ' } }],
  ])('refuses %j', (more) => {
    expect(() => reviewFace(found, review(more), PC)).toThrow('face.bad_review');
  });
});

describe('before and after cleaning', () => {
  it('what went, what stayed, what came', () => {
    const before = [
      feature('defect', 4, 10),
      feature('defect', 6, -30),
      feature('scratch', 2, 20, { lengthUm: 30 }),
    ];
    const after = [
      feature('scratch', 2, 21, { lengthUm: 28 }),
      feature('defect', 6, -31),
      feature('defect', 2, 50),
    ];
    expect(compareFaces(before, after)).toEqual({
      stayed: [
        { before: 1, after: 1 },
        { before: 2, after: 0 },
      ],
      went: [0],
      came: [2],
    });
  });
  it('a mark is one mark: the nearer of two takes it; kinds are not mixed', () => {
    const twins = [feature('defect', 2, 10), feature('defect', 2, 12)];
    expect(compareFaces(twins, [feature('defect', 2, 11.8)]).went).toEqual([0]);
    expect(compareFaces([feature('defect', 2, 10)], [feature('scratch', 2, 10)]).stayed).toEqual([]);
    expect(compareFaces([], [])).toEqual({ stayed: [], went: [], came: [] });
  });
});
