import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { named, offBy, valueOf, worstOf } from '../fixtures-for-tests.ts';
import { isotonic, logisticCurve, powerLaw, toFirstPass } from './index.ts';

const ATTEMPTS = [1, 1, 2, 2, 3, 3, 4, 5, 6, 7, 8, 9];
const PASSED = [0, 0, 0, 1, 0, 1, 0, 1, 1, 0, 1, 1];
const TRIES = [1, 2, 2, 3, 3, 4, 5, 5, 6, 8, 8, 9];
const DONE = [1, 1, 1, 1, 0, 1, 1, 0, 1, 1, 0, 0];

describe('against R', () => {
  it('logistic regression (glm)', () => {
    const fit = logisticCurve(ATTEMPTS, PASSED);
    if (fit.kind !== 'curve') throw new Error(fit.reason);
    expect(offBy(fit.intercept, valueOf('logit_intercept'))).toBeLessThan(1e-9);
    expect(offBy(fit.slope, valueOf('logit_slope'))).toBeLessThan(1e-9);
    // glm takes its errors from the weights of the round before.
    expect(offBy(fit.interceptError, valueOf('logit_intercept_se'))).toBeLessThan(1e-6);
    expect(offBy(fit.slopeError, valueOf('logit_slope_se'))).toBeLessThan(1e-6);
    expect(offBy(fit.deviance, valueOf('logit_deviance'))).toBeLessThan(1e-10);
  });
  it('power law (lm of logarithms) and isotonic regression (isoreg)', () => {
    const fit = powerLaw([1, 2, 3, 4, 5, 6, 7], [31, 24, 22.5, 18, 19.2, 15, 14.1]);
    if (fit.kind !== 'curve') throw new Error(fit.reason);
    expect(offBy(fit.first, valueOf('power_first'))).toBeLessThan(1e-12);
    expect(offBy(fit.exponent, valueOf('power_exponent'))).toBeLessThan(1e-12);
    expect(offBy(fit.exponentError!, valueOf('power_exponent_error'))).toBeLessThan(1e-11);
    expect(offBy(fit.r2!, valueOf('power_r2'))).toBeLessThan(1e-12);
    const level = isotonic([0.9, 0.7, 0.8, 0.5, 0.55, 0.6, 0.1, 0.2], undefined, 'falling');
    expect(worstOf('isotonic', (i) => level[i!]!)).toBeLessThan(1e-12);
  });
  it('Kaplan and Meier (survfit, log-log)', () => {
    const found = toFirstPass(TRIES.map((attempts, i) => ({ attempts, passed: DONE[i] === 1 })));
    const at = (attempts: number) => found.steps.find((s) => s.attempts === attempts)!;
    expect(found.steps).toHaveLength(named('km_still').length);
    expect(worstOf('km_still', (t) => at(t!).still)).toBeLessThan(1e-12);
    expect(worstOf('km_low', (t) => at(t!).low)).toBeLessThan(1e-9);
    expect(worstOf('km_high', (t) => at(t!).high)).toBeLessThan(1e-9);
    expect(found.median).toBe(valueOf('km_median'));
  });
});

describe('no finite answer is said to be none', () => {
  it.each([
    [[], [], 'too_few'],
    [[1], [1], 'too_few'],
    [[1, 2, 3], [1, 1, 1], 'all_pass'],
    [[1, 2, 3], [0, 0, 0], 'all_fail'],
    [[4, 4, 4], [0, 1, 0], 'one_attempt_number'],
    [[1, 2, 3, 4], [0, 0, 1, 1], 'separated'],
    [[1, 2, 2, 4], [0, 0, 1, 1], 'separated'],
    [[1, 2, 3, 4], [1, 1, 0, 0], 'separated'],
  ] as const)('%j %j is %s', (attempts, passed, reason) => {
    expect(logisticCurve(attempts, passed)).toEqual({ kind: 'none', reason });
  });
  it('of a learning curve', () => {
    expect(powerLaw([1], [3])).toEqual({ kind: 'none', reason: 'too_few' });
    expect(powerLaw([2, 2], [3, 4])).toEqual({ kind: 'none', reason: 'one_attempt_number' });
    expect(powerLaw([1, 2], [3, 0])).toEqual({ kind: 'none', reason: 'not_positive' });
    expect(powerLaw([1, 2, 4], [16, 8, 4])).toMatchObject({ exponent: -1, onDoubling: 0.5 });
    expect(powerLaw([1, 2, 4], [7, 7, 7])).toMatchObject({ exponent: 0, r2: null });
  });
  it('of nobody, and while most have not passed', () => {
    expect(toFirstPass([])).toMatchObject({ n: 0, steps: [], median: null });
    const most = [4, 5, 6].map((attempts) => ({ attempts, passed: false }));
    expect(toFirstPass([{ attempts: 1, passed: true }, ...most])).toMatchObject({ passed: 1, median: null });
    expect(toFirstPass([{ attempts: 2, passed: true }])).toMatchObject({ median: 2, steps: [{ still: 0 }] });
    // Half at 1, the rest at 3: the middle of the flat stretch.
    expect(
      toFirstPass([
        { attempts: 1, passed: true },
        { attempts: 3, passed: true },
      ]).median,
    ).toBe(2);
  });
  it('refuses what is impossible', () => {
    expect(() => logisticCurve([1, 2], [1, 0.5])).toThrow('stats.bad_outcome');
    expect(() => powerLaw([1, 2], [1])).toThrow('stats.not_paired');
    expect(() => isotonic([1, 2], [1, 0])).toThrow('stats.bad_weight');
    expect(() => toFirstPass([{ attempts: 0, passed: true }])).toThrow('stats.bad_count');
  });
});

describe('isotonic regression of any values', () => {
  it('never rises where it falls, keeps the mean, and leaves what falls already', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 30 }),
        (values) => {
          const level = isotonic(values, undefined, 'falling');
          for (let i = 1; i < level.length; i++) expect(level[i]!).toBeLessThanOrEqual(level[i - 1]! + 1e-12);
          const sum = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0);
          expect(sum(level)).toBeCloseTo(sum(values), 9);
          expect(isotonic(level, undefined, 'falling')).toEqual(level);
        },
      ),
      { numRuns: 60, seed: 8 },
    );
  });
});
