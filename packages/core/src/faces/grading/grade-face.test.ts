import { describe, expect, it } from 'vitest';
import { faceCriteria } from './criteria.ts';
import { enclosingCircle } from '../pixels/enclosing-circle.ts';
import { type FaceFeature, gradeFace } from './grade-face.ts';

const PC = faceCriteria('sm-pc')!;
const APC = faceCriteria('sm-apc')!;
const MM = faceCriteria('mm')!;
/** A round defect at a distance from the centre. */
const defect = (sizeUm: number, atUm: number): FaceFeature => ({
  kind: 'defect',
  sizeUm,
  xUm: atUm,
  yUm: 0,
  nearestUm: Math.max(0, atUm - sizeUm / 2),
  farthestUm: atUm + sizeUm / 2,
});
const scratch = (sizeUm: number, nearestUm: number, farthestUm: number): FaceFeature => ({
  kind: 'scratch',
  sizeUm,
  xUm: nearestUm,
  yUm: 0,
  nearestUm,
  farthestUm,
  lengthUm: 50,
});
const verdicts = (features: FaceFeature[], table = PC): string =>
  gradeFace(features, table)
    .zones.map((z) => (z.verdict === 'pass' ? z.zone : z.zone.toLowerCase()))
    .join('');

// The tables of IEC 61300-3-35 as they are shipped, from memory: failing zones in small letters.
describe('zones and counts', () => {
  it.each<[string, FaceFeature[], string, typeof PC]>([
    ['nothing', [], 'ABCD', PC],
    ['a speck in the core of a flat single-mode face', [defect(0.5, 3)], 'aBCD', PC],
    ['a 3 um scratch through the cladding', [scratch(3, 20, 50)], 'ABCD', PC],
    ['a 3.1 um scratch', [scratch(3.1, 20, 50)], 'AbCD', PC],
    ['a hair scratch that reaches the core zone', [scratch(0.5, 12, 50)], 'aBCD', PC],
    ['the same on an angled face, one of four', [scratch(0.5, 12, 50)], 'ABCD', APC],
    ['five on an angled face', Array.from({ length: 5 }, () => scratch(0.5, 2, 50)), 'aBCD', APC],
    ['five defects of 2 to 5 um', Array.from({ length: 5 }, () => defect(3, 40)), 'ABCD', PC],
    ['six of them', Array.from({ length: 6 }, () => defect(2, 40)), 'AbCD', PC],
    ['any number under 2 um', Array.from({ length: 60 }, () => defect(1.9, 40)), 'ABCD', PC],
    ['one over 5 um', [defect(5.1, 40)], 'AbCD', PC],
    [
      'one in the adhesive ring',
      [defect(9.9, 62.5)],
      'ABCD',
      { ...PC, zones: PC.zones.slice(2) } as typeof PC,
    ],
    ['10 um in the contact zone', [defect(10, 90)], 'ABCd', PC],
    ['9.9 um there', [defect(9.9, 90)], 'ABCD', PC],
    ['beyond the contact zone', [defect(30, 150)], 'ABCD', PC],
    ['four of 5 um in a multimode core', Array.from({ length: 4 }, () => defect(5, 10)), 'ABCD', MM],
    ['five of them', Array.from({ length: 5 }, () => defect(1, 10)), 'aBCD', MM],
    ['a 4 um scratch through core and cladding', [scratch(4, 10, 50)], 'aBCD', MM],
  ])('%s', (_, features, wanted, table) => {
    const found = verdicts(features, table);
    expect(found).toBe(table.zones.length === 4 ? wanted : wanted.slice(2));
  });
  it('a feature counts in every zone that it touches, and the rule that decided is named', () => {
    const found = gradeFace([defect(6, 56)], PC);
    expect(found.zones.map((z) => z.features)).toEqual([[], [0], [0], []]);
    expect(found.zones[1]!.breaches).toEqual([{ kind: 'defect', features: [0], band: null }]);
    const six = gradeFace(
      Array.from({ length: 6 }, () => defect(4, 40)),
      PC,
    );
    expect(six.zones[1]!.breaches[0]).toMatchObject({ features: [0, 1, 2, 3, 4, 5], band: { count: 5 } });
  });
});

describe('the smallest enclosing circle', () => {
  it('of two, three and many points', () => {
    expect(enclosingCircle([])).toBeNull();
    expect(enclosingCircle([[1, 1]])).toEqual({ x: 1, y: 1, r: 0 });
    expect(
      enclosingCircle([
        [0, 0],
        [4, 0],
      ]),
    ).toEqual({ x: 2, y: 0, r: 2 });
    expect(
      enclosingCircle([
        [0, 0],
        [4, 0],
        [2, 0],
      ])!.r,
    ).toBeCloseTo(2, 12);
    const right = enclosingCircle([
      [0, 0],
      [3, 0],
      [0, 4],
      [1, 1],
    ])!;
    expect(right.r).toBeCloseTo(2.5, 12);
  });
  it('holds every point, and none smaller does', () => {
    let seed = 3;
    const random = (): number => (seed = (seed * 48271) % 2147483647) / 2147483647;
    for (let round = 0; round < 100; round++) {
      const points = Array.from({ length: 12 }, () => [random() * 10, random() * 10] as const);
      const c = enclosingCircle(points)!;
      expect(points.every(([x, y]) => Math.hypot(x - c.x, y - c.y) <= c.r + 1e-9)).toBe(true);
      // Two or three points lie on it, and not all within one half.
      const on = points.filter(([x, y]) => Math.hypot(x - c.x, y - c.y) > c.r - 1e-7);
      expect(on.length).toBeGreaterThanOrEqual(2);
      const angles = on.map(([x, y]) => Math.atan2(y - c.y, x - c.x)).sort((a, b) => a - b);
      const gaps = angles.map((a, i) => (angles[(i + 1) % angles.length]! - a + 2 * Math.PI) % (2 * Math.PI));
      expect(Math.max(...gaps)).toBeLessThanOrEqual(Math.PI + 1e-6);
    }
  });
});
