import { faceCriteria } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { facesForCalls, scopeFace } from './index.ts';

const PC = faceCriteria('sm-pc')!;

describe('a face under the simulated scope', () => {
  const face = { seed: 11, state: 'dirty', loose: 1, kind: 'single_mode', height: 480 } as const;
  it('is the same for the same seed', () => expect(scopeFace(face)).toEqual(scopeFace(face)));
  it('loses what is loose and keeps what is not, when it is cleaned', () => {
    for (let seed = 0; seed < 30; seed++) {
      const dirty = scopeFace({ ...face, seed, state: 'mixed' }).features;
      const cleaned = scopeFace({ ...face, seed, state: 'mixed', loose: 0 }).features;
      for (const feature of cleaned) expect(dirty).toContainEqual(feature);
      expect(cleaned.filter((f) => f.look === 'dust')).toEqual([]);
      expect(cleaned.filter((f) => f.look === 'pit')).toEqual(dirty.filter((f) => f.look === 'pit'));
    }
  });
});

describe('faces for a series of blind calls', () => {
  it.each([8, 12, 20, 40])('%i are half good and half bad, and of each half are near the limit', (count) => {
    for (const first of [0, 5000, 123_456]) {
      const faces = facesForCalls(first, count, PC);
      const of = (verdict: string, isNear: boolean): number =>
        faces.filter((f) => f.verdict === verdict && f.isNear === isNear).length;
      expect([of('pass', true) + of('pass', false), of('fail', true) + of('fail', false)]).toEqual([
        count / 2,
        count / 2,
      ]);
      expect(of('pass', true) + of('fail', true)).toBeGreaterThanOrEqual(count / 2);
      expect(new Set(faces.map((f) => f.face.seed)).size).toBe(count);
    }
  });
});
