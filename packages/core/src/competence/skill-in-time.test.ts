import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { skillLearning } from './index.ts';

const of = (marks: string, minutes: (number | null)[] = [...marks].map(() => 10)) => ({ marks, minutes });

describe('how a skill is learned', () => {
  it('counts by attempt number, void and incomplete left out', () => {
    const found = skillLearning([of('FVP'), of('PIP'), of('F')]);
    expect(
      found.learning.map((p) => [p.rate.kind === 'rate' ? [p.rate.k, p.rate.n] : null, p.level]),
    ).toEqual([
      [[1, 3], 2 / 3],
      [[2, 2], 0],
    ]);
    expect(found.attempts).toMatchObject({ n: 3, passed: 2 });
    expect(found.attempts.median).toBe(2);
  });
  it('sums minutes up to the first pass; who was not timed is left out of them', () => {
    const found = skillLearning([of('FP', [12.2, 7]), of('P', [8]), of('FF', [20, 25]), of('FP', [null, 5])]);
    expect(found.minutes).toMatchObject({ n: 3, passed: 2 });
    expect(found.minutes.steps.map((s) => s.attempts)).toEqual([8, 20]);
    expect(found.attempts.n).toBe(4);
  });
  it('the time of a piece falls by a power of the attempt number', () => {
    // 20 minutes at first, three quarters of it at each doubling.
    const minutes = [1, 2, 3, 4].map((n) => 20 * n ** Math.log2(0.75));
    const { pace } = skillLearning([of('PFPP', minutes)]);
    if (pace.kind === 'none') throw new Error(pace.reason);
    expect(pace.first).toBeCloseTo(20, 9);
    expect(pace.onDoubling).toBeCloseTo(0.75, 9);
    expect(skillLearning([of('P', [null])]).pace).toEqual({ kind: 'none', reason: 'too_few' });
  });
  it('says why there is no slope', () => {
    expect(skillLearning([]).oddsNone).toBe('too_few');
    expect(skillLearning([of('PPP')]).oddsNone).toBe('all_pass');
    expect(skillLearning([of('FFF')]).oddsNone).toBe('all_fail');
    expect(skillLearning([of('FFPP')]).oddsNone).toBe('separated');
    expect(skillLearning([of('F'), of('P')]).oddsNone).toBe('one_attempt_number');
    const learns = skillLearning([of('FFPFPPPP'), of('FPFPPP')]);
    expect(learns.odds!.factor).toBeLessThan(1);
    expect(learns.odds!.low).toBeLessThan(learns.odds!.factor);
  });
  it('never lets the level rise, and never divides by nothing', () => {
    const marks = fc.string({ unit: fc.constantFrom('P', 'p', 'F', 'f', 'S', 'V', 'I'), maxLength: 30 });
    fc.assert(
      fc.property(fc.array(marks, { maxLength: 8 }), (list) => {
        const { learning, attempts } = skillLearning(list.map((m) => of(m)));
        learning.forEach((p, i) => {
          expect(p.level).toBeGreaterThanOrEqual(0);
          if (i > 0) expect(p.level).toBeLessThanOrEqual(learning[i - 1]!.level + 1e-12);
        });
        expect(attempts.passed).toBeLessThanOrEqual(attempts.n);
      }),
      { numRuns: 80, seed: 11 },
    );
  });
});
