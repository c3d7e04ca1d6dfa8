import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { describeLoss, describeLossCounts, histogram } from './index.ts';

/** Readings as their different values and counts. */
function countedOf(readings: readonly number[]) {
  const values = [...new Set(readings)].sort((a, b) => a - b);
  return { values, counts: values.map((v) => readings.filter((r) => r === v).length) };
}

describe('a sample by its different values', () => {
  it('is described as its readings are', () => {
    const reading = fc.integer({ min: -20, max: 160 }).map((n) => n / 100);
    fc.assert(
      fc.property(fc.array(reading, { minLength: 1, maxLength: 60 }), (readings) => {
        const whole = describeLoss(readings, 0.75)!;
        const counted = describeLossCounts(countedOf(readings), 0.75)!;
        for (const key of Object.keys(whole) as (keyof typeof whole)[]) {
          if (whole[key] === null) expect(counted[key], key).toBeNull();
          else expect(counted[key], key).toBeCloseTo(whole[key], 10);
        }
      }),
      { numRuns: 200, seed: 3 },
    );
  });
  it('a constant has itself as its mean, no spread and no skewness, however often it is there', () => {
    fc.assert(
      fc.property(fc.integer({ min: -400, max: 400 }), fc.integer({ min: 2, max: 500 }), (cents, n) => {
        const value = cents / 100;
        const counted = describeLossCounts({ values: [value], counts: [n] }, 0.75)!;
        expect(counted).toMatchObject({ mean: value, sd: 0, skewness: null });
        const whole = describeLoss(Array(n).fill(value), 0.75)!;
        expect(whole).toMatchObject({ mean: value, sd: 0, skewness: null });
      }),
    );
  });
  it('by hand, and of none', () => {
    expect(describeLossCounts({ values: [0.2, 0.5], counts: [2, 1] }, 0.5)).toMatchObject({
      n: 3,
      median: 0.2,
      mean: expect.closeTo(0.3, 12) as number,
      over: 0,
      min: 0.2,
      max: 0.5,
    });
    expect(describeLossCounts({ values: [], counts: [] }, 1)).toBeNull();
    const one = describeLossCounts({ values: [0.3], counts: [5] }, 0.2)!;
    expect(one).toMatchObject({ n: 5, sd: 0, mad: 0, skewness: null, over: 5, q95: 0.3 });
    expect(histogram([0.1, 0.14, 0.2], 0.1, [3, 1, 2])).toMatchObject({ counts: [4, 2] });
  });
  it('refuses what is no sample', () => {
    expect(() => describeLossCounts({ values: [0.1], counts: [0] }, 1)).toThrow('stats.bad_count');
    expect(() => describeLossCounts({ values: [0.1], counts: [] }, 1)).toThrow('stats.not_paired');
    expect(() => describeLossCounts({ values: [NaN], counts: [1] }, 1)).toThrow('stats.not_finite');
  });
});
