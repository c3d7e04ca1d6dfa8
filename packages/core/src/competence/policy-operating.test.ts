import { describe, expect, it } from 'vitest';
import { numbers } from '../faces/faces-for-tests.ts';
import { DEFAULT_POLICY, policyOperating, standingOf } from './index.ts';

describe('what a policy makes of a trainee', () => {
  it('by hand over few pieces', () => {
    // Three passes in a row within three: q^3; within four: q^3 + p q^3.
    expect(policyOperating(DEFAULT_POLICY, 0.3, 3).competent).toBeCloseTo(0.343, 12);
    expect(policyOperating(DEFAULT_POLICY, 0.3, 4).competent).toBeCloseTo(0.343 * 1.3, 12);
    // Two fails in a row, but not before the third piece: FF at 2 does not count, at 3 it is FFF, xFF.
    expect(policyOperating(DEFAULT_POLICY, 0.3, 2).retrain).toBe(0);
    expect(policyOperating(DEFAULT_POLICY, 0.3, 3).retrain).toBeCloseTo(0.09, 12);
    expect(policyOperating(DEFAULT_POLICY, 0.3, 20).competent).toBeCloseTo(0.986, 3);
  });
  it('ends', () => {
    expect(policyOperating(DEFAULT_POLICY, 0, 3)).toEqual({ p: 0, competent: 1, retrain: 0, pieces: 3 });
    expect(policyOperating(DEFAULT_POLICY, 1, 3)).toEqual({ p: 1, competent: 0, retrain: 1, pieces: null });
    expect(() => policyOperating(DEFAULT_POLICY, 0.2, 0)).toThrow('stats.bad_count');
    expect(() => policyOperating(DEFAULT_POLICY, 1.2, 5)).toThrow('sequential.bad_share');
  });
  it('as often as standings of simulated trainees say so', () => {
    const next = numbers(41);
    const rounds = 3000;
    let [competent, retrain] = [0, 0];
    for (let round = 0; round < rounds; round++) {
      let marks = '';
      let [was, asked] = [false, false];
      for (let n = 0; n < 15; n++) {
        marks += next() < 0.25 ? 'F' : 'P';
        const { standing, wasCompetent } = standingOf({ marks, lastPassMs: 1 }, DEFAULT_POLICY, 2);
        was ||= wasCompetent;
        asked ||= standing === 'retrain';
      }
      competent += Number(was);
      retrain += Number(asked);
    }
    const said = policyOperating(DEFAULT_POLICY, 0.25, 15);
    for (const [seen, chance] of [
      [competent, said.competent],
      [retrain, said.retrain],
    ] as const) {
      expect(Math.abs(seen / rounds - chance)).toBeLessThan(
        4 * Math.sqrt((chance * (1 - chance)) / rounds) + 1e-9,
      );
    }
  });
});
