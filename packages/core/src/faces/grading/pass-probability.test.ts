import { describe, expect, it } from 'vitest';
import { faceCriteria } from './criteria.ts';
import type { FaceFeature } from './grade-face.ts';
import { isNearLimit, passProbability } from './pass-probability.ts';

const PC = faceCriteria('sm-pc')!;
const MM = faceCriteria('mm')!;
const defect = (sizeUm: number, atUm: number, uncertaintyUm?: number): FaceFeature => ({
  kind: 'defect',
  sizeUm,
  xUm: atUm,
  yUm: 0,
  nearestUm: atUm - sizeUm / 2,
  farthestUm: atUm + sizeUm / 2,
  ...(uncertaintyUm === undefined ? {} : { uncertaintyUm }),
});
/** Normal distribution function, by its series: for comparison alone. */
function below(z: number): number {
  let term = z;
  let sum = z;
  for (let k = 1; k < 60; k++) {
    term *= (-z * z) / (2 * k);
    sum += term / (2 * k + 1);
  }
  return 0.5 + sum / Math.sqrt(2 * Math.PI);
}

describe('how probable it is that a face passes', () => {
  it('is the grade where nothing is uncertain', () => {
    expect(passProbability([], PC)).toBe(1);
    expect(passProbability([defect(5.1, 40)], PC)).toBe(0);
    expect(passProbability([defect(4.9, 40)], PC)).toBe(1);
  });
  it.each([4.2, 4.6, 4.9, 5, 5.1, 5.4, 5.8])(
    'of one defect of %f um ± 0.6 um at a limit of 5 um',
    (sizeUm) => {
      // Its own uncertainty and that of the scale, which all share.
      const sd = Math.hypot(0.3, 0.0035 * sizeUm);
      const wanted = below((5 - sizeUm) / sd);
      expect(Math.abs(passProbability([defect(sizeUm, 40, 0.6)], PC) - wanted)).toBeLessThan(0.02);
    },
  );
  it('two that are even chances each pass together in a quarter', () => {
    const two = [defect(5, 40, 0.6), { ...defect(5, 44, 0.6), xUm: -44 }];
    expect(Math.abs(passProbability(two, MM) - 0.25)).toBeLessThan(0.03);
  });
  it('where a defect lies decides as well: one that may touch the core', () => {
    const p = passProbability([defect(3, 14.02, 0.4)], PC);
    expect(p).toBeGreaterThan(0.3);
    expect(p).toBeLessThan(0.8);
    expect(passProbability([defect(3, 16, 0.4)], PC)).toBe(1);
  });
  it('many features at once are drawn, those nearest to a limit first', () => {
    const many = Array.from({ length: 30 }, (_, i) => defect(1 + 0.01 * i, 30 + (i % 20), 0.3));
    expect(passProbability(many, PC)).toBe(1);
    expect(passProbability([...many, defect(5, 40, 0.6)], PC)).toBeGreaterThan(0.4);
  });
  it('near the limit is what may well be the other grade', () => {
    expect([0, 0.05, 0.06, 0.5, 0.94, 0.95, 1].map(isNearLimit)).toEqual([
      false,
      false,
      true,
      true,
      true,
      false,
      false,
    ]);
  });
});
