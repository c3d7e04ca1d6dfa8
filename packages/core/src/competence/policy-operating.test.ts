import { describe, expect, it } from 'vitest';
import { numbers } from '../numbers-for-tests.ts';
import { DEFAULT_POLICY, type Policy, policyOperating, standingOf } from './index.ts';

const ROW: Policy = { ...DEFAULT_POLICY, chartRetrains: false };

describe('what a policy makes of a trainee', () => {
  it('by hand over few pieces', () => {
    // Three passes in a row within three: q^3; within four: q^3 + p q^3.
    expect(policyOperating(ROW, 0.3, 3).competent).toBeCloseTo(0.343, 12);
    expect(policyOperating(ROW, 0.3, 4).competent).toBeCloseTo(0.343 * 1.3, 12);
    // Two fails in a row, but not before the third piece: FF at 2 does not count, at 3 it is FFF, xFF.
    expect(policyOperating(ROW, 0.3, 2).retrain).toBe(0);
    expect(policyOperating(ROW, 0.3, 3).retrain).toBeCloseTo(0.09, 12);
    expect(policyOperating(ROW, 0.3, 20).competent).toBeCloseTo(0.986, 3);
  });
  it('by hand of a share: two of the last three', () => {
    const share: Policy = { ...ROW, competentBy: 'share', sharePasses: 2, shareOf: 3 };
    const q = 0.7;
    const twoOfThree = 3 * q * q * 0.3 + q ** 3;
    expect(policyOperating(share, 0.3, 3).competent).toBeCloseTo(twoOfThree, 12);
    expect(policyOperating(share, 0.3, 2).competent).toBe(0);
    // Always passing shows it at the third piece; every window that does not show it holds two failures of three.
    expect(policyOperating(share, 0, 5).pieces).toBe(3);
    expect(policyOperating(share, 1, 5).pieces).toBeNull();
  });
  it('of the chart of learning: the mean run of one who is not ready is what was asked for', () => {
    const chart: Policy = { ...DEFAULT_POLICY, competentBy: 'chart' };
    expect(policyOperating(chart, chart.pBad, 10).pieces).toBeGreaterThanOrEqual(chart.falseSignalAfter);
    expect(policyOperating(chart, chart.pGood, 10).pieces).toBeLessThan(60);
  });
  it('ends', () => {
    expect(policyOperating(ROW, 0, 3)).toEqual({ p: 0, competent: 1, retrain: 0, pieces: 3 });
    expect(policyOperating(ROW, 1, 3)).toEqual({ p: 1, competent: 0, retrain: 1, pieces: null });
    expect(() => policyOperating(ROW, 0.2, 0)).toThrow('stats.bad_count');
    expect(() => policyOperating(ROW, 1.2, 5)).toThrow('sequential.bad_share');
  });
  it.each([
    ['in_a_row', 0.25],
    ['share', 0.15],
    ['chart', 0.08],
  ] as const)('as often as standings of simulated trainees say so: %s', (competentBy, p) => {
    const policy: Policy = { ...DEFAULT_POLICY, competentBy };
    const next = numbers(41);
    const rounds = 600;
    const pieces = 24;
    let competent = 0;
    let retrain = 0;
    for (let round = 0; round < rounds; round++) {
      let marks = '';
      let was = false;
      let asked = false;
      for (let n = 0; n < pieces; n++) {
        marks += next() < p ? 'F' : 'P';
        const { standing, wasCompetent } = standingOf({ marks, lastPassMs: 1 }, policy, 2);
        was ||= wasCompetent;
        asked ||= standing === 'retrain';
      }
      competent += Number(was);
      retrain += Number(asked);
    }
    const said = policyOperating(policy, p, pieces);
    for (const [seen, chance] of [
      [competent, said.competent],
      [retrain, said.retrain],
    ] as const) {
      expect(chance).toBeGreaterThan(0.1);
      expect(Math.abs(seen / rounds - chance)).toBeLessThan(
        4 * Math.sqrt((chance * (1 - chance)) / rounds) + 1e-9,
      );
    }
  });
});
