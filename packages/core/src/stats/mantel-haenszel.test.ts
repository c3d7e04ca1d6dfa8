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
  k: k!,
  n: k! + lost!,
  othersK: othersK!,
  othersN: othersK! + othersLost!,
}));

describe('one judge against the others, stratum by stratum', () => {
  it('the admissions to Berkeley, as R’s mantelhaen.test has them', () => {
    const found = stratifiedDifference(BERKELEY);
    if (found.kind === 'none') throw new Error(found.reason);
    expect(found.statistic).toBeCloseTo(1.52460666044344, 12);
    // mantelhaen.test(exact = TRUE) in R.
    expect(found.p).toBeCloseTo(0.2277625267982061, 12);
    // Taken together without the departments the difference would be 0.14: the strata undo it.
    expect(found.difference).toBeLessThan(0);
  });
  it('few outcomes: exact as in R, where the normal distribution is far off', () => {
    const few = [
      { k: 3, n: 4, othersK: 2, othersN: 8 },
      { k: 5, n: 5, othersK: 3, othersN: 7 },
      { k: 2, n: 4, othersK: 1, othersN: 8 },
    ];
    const found = stratifiedDifference(few);
    expect(found).toMatchObject({ exact: true });
    expect(found.kind === 'none' ? 0 : found.p).toBeCloseTo(0.009271781172607619, 12);
    // One rare failure among many: no surprise, though the score statistic says 1 in 500.
    const rare = stratifiedDifference([{ k: 9, n: 10, othersK: 90, othersN: 90 }]);
    expect(rare).toMatchObject({ kind: 'difference', p: expect.closeTo(0.1, 12) as number });
  });
  it('beyond 5000 outcomes by the normal distribution, close to the exact one', () => {
    const many = (times: number) =>
      stratifiedDifference(
        Array.from({ length: times }, () => ({ k: 380, n: 400, othersK: 1520, othersN: 1600 })),
      );
    const at = (times: number) => {
      const found = stratifiedDifference([
        ...Array.from({ length: times }, () => ({ k: 385, n: 400, othersK: 1515, othersN: 1600 })),
      ]);
      return found.kind === 'none' ? null : found;
    };
    expect(many(13)).toMatchObject({ exact: false, p: 1 });
    const exact = at(12)!;
    const normal = at(13)!;
    expect([exact.exact, normal.exact]).toEqual([true, false]);
    expect(Math.abs(Math.log10(exact.p) / 12 - Math.log10(normal.p) / 13)).toBeLessThan(0.15);
  });
  it('is turned round by looking from the other side', () => {
    const turned = BERKELEY.map((s) => ({ k: s.othersK, n: s.othersN, othersK: s.k, othersN: s.n }));
    const a = stratifiedDifference(BERKELEY);
    const b = stratifiedDifference(turned);
    if (a.kind === 'none' || b.kind === 'none') throw new Error('none');
    expect(b.statistic).toBeCloseTo(a.statistic, 12);
    expect(Math.sign(b.difference)).toBe(-Math.sign(a.difference));
  });
  it('says nothing without work that both judged, and nothing certain where all passed', () => {
    expect(stratifiedDifference([{ k: 3, n: 4, othersK: 0, othersN: 0 }])).toEqual({
      kind: 'none',
      reason: 'no_shared_stratum',
    });
    expect(stratifiedDifference([{ k: 4, n: 4, othersK: 2, othersN: 2 }])).toMatchObject({
      p: 1,
      difference: 0,
    });
    expect(() => stratifiedDifference([{ k: 5, n: 4, othersK: 0, othersN: 0 }])).toThrow('stats.bad_count');
  });
});
