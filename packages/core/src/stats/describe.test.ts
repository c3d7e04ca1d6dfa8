import jstat from 'jstat';
import * as reference from 'simple-statistics';
import { describe as group, expect, it } from 'vitest';
import { describe, describeLoss } from './describe.ts';
import { histogram } from './histogram.ts';
import { mean, powerMeanDb, sampleSd, skewnessG1 } from './moments.ts';
import { median, quantileOfSorted, scaledMad, sorted } from './quantile.ts';

// Losses as a meter gives them; the checks below compare with two statistics packages from the registry.
const SAMPLE = [0.21, 0.18, 0.35, 0.22, 0.19, 0.61, 0.27, 0.24, 0.2, 0.33, 0.19, 0.28, 0.75, 0.17];

group('against simple-statistics 7.12.1', () => {
  it('mean, sample SD, median, MAD, skewness', () => {
    expect(mean(SAMPLE)).toBeCloseTo(reference.mean(SAMPLE), 14);
    expect(sampleSd(SAMPLE)).toBeCloseTo(reference.sampleStandardDeviation(SAMPLE), 14);
    expect(median(SAMPLE)).toBeCloseTo(reference.median(SAMPLE), 14);
    expect(scaledMad(SAMPLE)).toBeCloseTo(1.4826 * reference.medianAbsoluteDeviation(SAMPLE), 14);
    expect(skewnessG1(SAMPLE)).toBeCloseTo(reference.sampleSkewness(SAMPLE), 12);
  });
});

group('against jstat 1.9.6', () => {
  // Its plotting positions alphap = betap = 1 are type 7, alphap = betap = 0 type 6 (Hyndman & Fan 1996).
  it.each([0.05, 0.25, 0.5, 0.75, 0.9, 0.95])('quantile %f, types 6 and 7', (p) => {
    const rising = sorted(SAMPLE);
    expect(quantileOfSorted(rising, p, 7)).toBeCloseTo(jstat.quantiles(SAMPLE, [p], 1, 1)[0]!, 12);
    expect(quantileOfSorted(rising, p, 6)).toBeCloseTo(jstat.quantiles(SAMPLE, [p], 0, 0)[0]!, 12);
  });
});

group('by hand', () => {
  it('quantiles of 1 to 4', () => {
    expect(quantileOfSorted([1, 2, 3, 4], 0.25)).toBe(1.75);
    expect(quantileOfSorted([1, 2, 3, 4], 0.25, 6)).toBe(1.25);
    expect(quantileOfSorted([1, 2, 3, 4], 0)).toBe(1);
    expect(quantileOfSorted([1, 2, 3, 4], 1)).toBe(4);
    expect(quantileOfSorted([5], 0.3)).toBe(5);
  });

  it('small samples', () => {
    expect(mean([1, 2, 4])).toBeCloseTo(7 / 3, 15);
    expect(sampleSd([1, 2, 4])).toBeCloseTo(Math.sqrt(7 / 3), 15);
    expect(sampleSd([3])).toBeNull();
    expect(skewnessG1([1, 2])).toBeNull();
    expect(skewnessG1([2, 2, 2])).toBeNull();
    expect(scaledMad([1, 2, 4])).toBeCloseTo(1.4826, 15);
    expect(describe([])).toBeNull();
  });

  it('keeps its digits a million away from zero', () => {
    const far = SAMPLE.map((x) => x + 1e6);
    expect(sampleSd(far)).toBeCloseTo(sampleSd(SAMPLE)!, 9);
    expect(mean(far) - 1e6).toBeCloseTo(mean(SAMPLE), 9);
  });

  // 0 dB passes all, 3.0103 dB half: three quarters on the mean, 1.249 dB.
  it('power mean', () => {
    expect(powerMeanDb([0, 10 * Math.log10(2)])).toBeCloseTo(-10 * Math.log10(0.75), 12);
  });

  it('refuses what is no number', () => {
    expect(() => mean([])).toThrow('stats.empty');
    expect(() => mean([1, NaN])).toThrow('stats.not_finite');
    expect(() => sorted([1, Infinity])).toThrow('stats.not_finite');
    expect(() => quantileOfSorted([1], 1.2)).toThrow('stats.bad_probability');
  });

  it('counts what is over the limit, a loss on it not', () => {
    const found = describeLoss([0.5, 0.75, 0.752, 0.76], 0.752);
    expect(found).toMatchObject({ n: 4, over: 1 });
    expect(found!.meanDistanceToLimitDb).toBeCloseTo(0.752 - (0.5 + 0.75 + 0.752 + 0.76) / 4, 12);
  });
});

group('histogram', () => {
  it('puts an edge into the upper bar, binary dust forgiven', () => {
    expect(histogram([0.1, 0.14, 0.2], 0.1)!.counts).toEqual([2, 1]);
    expect(histogram([0.3, 0.15, 0.05 * 7], 0.05)!.counts).toEqual([1, 0, 0, 1, 1]);
    expect(histogram([-0.03, 0.01], 0.05)).toMatchObject({ from: -0.05, counts: [1, 1] });
  });

  it('counts every value once', () => {
    const bars = histogram(SAMPLE, 0.05)!;
    expect(bars.counts.reduce((a, b) => a + b)).toBe(SAMPLE.length);
    expect(histogram([], 0.05)).toBeNull();
    expect(() => histogram([1], 0)).toThrow('stats.bad_width');
  });
});
