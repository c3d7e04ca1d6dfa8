import { describe, expect, it } from 'vitest';
import { stratifiedDifference } from './index.ts';

/** Bickel, Hammel & O'Connell 1975: admitted and rejected men, admitted and rejected women, by department. */
const BERKELEY = [
  [512, 313, 89, 19],
  [353, 207, 17, 8],
  [120, 205, 202, 391],
  [138, 279, 131, 244],
  [53, 138, 94, 299],
  [22, 351, 24, 317],
].map(([k, lost, othersK, othersLost]) => ({
  ...{ k: k!, n: k! + lost!, othersK: othersK!, othersN: othersK! + othersLost! },
}));

describe('one judge against the others, stratum by stratum', () => {
  it('the admissions to Berkeley, as R’s mantelhaen.test has them', () => {
    const found = stratifiedDifference(BERKELEY);
    if (found.kind === 'none') throw new Error(found.reason);
    expect(found.statistic).toBeCloseTo(1.52460666044344, 12);
    expect(found.p).toBeCloseTo(0.216923697055518, 12);
    // Taken together without the departments the difference would be 0.14: the strata undo it.
    expect(found.difference).toBeLessThan(0);
  });
  it('is turned round by looking from the other side', () => {
    const turned = BERKELEY.map((s) => ({ k: s.othersK, n: s.othersN, othersK: s.k, othersN: s.n }));
    const [a, b] = [stratifiedDifference(BERKELEY), stratifiedDifference(turned)];
    if (a.kind === 'none' || b.kind === 'none') throw new Error('none');
    expect(b.statistic).toBeCloseTo(a.statistic, 12);
    expect(Math.sign(b.difference)).toBe(-Math.sign(a.difference));
  });
  it('says nothing without work that both judged, and nothing certain where all passed', () => {
    expect(stratifiedDifference([{ k: 3, n: 4, othersK: 0, othersN: 0 }])).toEqual({
      ...{ kind: 'none', reason: 'no_shared_stratum' },
    });
    expect(stratifiedDifference([{ k: 4, n: 4, othersK: 2, othersN: 2 }])).toMatchObject({
      p: 1,
      difference: 0,
    });
    expect(() => stratifiedDifference([{ k: 5, n: 4, othersK: 0, othersN: 0 }])).toThrow('stats.bad_count');
  });
});
