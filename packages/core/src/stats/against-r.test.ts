import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { offBy, sampleOf, valueOf, worstOf } from '../fixtures-for-tests.ts';
import {
  fisherExact,
  holm,
  INTERVAL_METHODS,
  mannWhitney,
  mcnemarExact,
  meanInterval,
  normalUpperBound,
  orderRank,
  orderUpperBound,
  pairedTest,
  proportionInterval,
  quantileOfSorted,
  sampleSd,
  scaledMad,
  skewnessG1,
  sorted,
  toleranceFactor,
  welchTest,
} from './index.ts';

const [A, B, C, D, FAR] = ['a', 'b', 'c', 'd', 'far'].map(sampleOf) as [
  number[],
  number[],
  number[],
  number[],
  number[],
];
const end = (method: 'wilson' | 'clopper_pearson', side: 'low' | 'high') => (k: number, n: number) => {
  const found = proportionInterval(k, n, method);
  return found.kind === 'none' ? NaN : found[side];
};
type Kind<T, K> = Extract<T, { kind: K }>;
const must = <T extends { kind: string }, K extends T['kind']>(value: T, kind: K): Kind<T, K> => {
  if (value.kind !== kind) throw new Error(JSON.stringify(value));
  return value as Kind<T, K>;
};

describe('against R', () => {
  it.each<[string, (...a: number[]) => number]>([
    ['wilson_low', (k, n) => end('wilson', 'low')(k!, n!)],
    ['wilson_high', (k, n) => end('wilson', 'high')(k!, n!)],
    ['clopper_low', (k, n) => end('clopper_pearson', 'low')(k!, n!)],
    ['clopper_high', (k, n) => end('clopper_pearson', 'high')(k!, n!)],
    ['mcnemar', (b, c) => mcnemarExact(b!, c!)],
    ['holm', (i) => holm([0.01, 0.04, 0.03, 0.2, 0.011])[i!]!],
    ['quantile7', (p) => quantileOfSorted(sorted(B), p!, 7)],
    ['quantile6', (p) => quantileOfSorted(sorted(B), p!, 6)],
    ['sd_b', () => sampleSd(B)!],
    ['sd_far', () => sampleSd(FAR)!],
    ['mad_b', () => scaledMad(B)],
    ['skewness', () => skewnessG1(B)!],
    ['wilcox_exact', () => must(mannWhitney(A, B), 'test').p],
    ['wilcox_exact_w', () => must(mannWhitney(A, B), 'test').u],
    ['wilcox_tied', () => must(mannWhitney(C, D), 'test').p],
    ['welch_p', () => must(welchTest(A, B), 'test').p],
    ['welch_t', () => must(welchTest(A, B), 'test').t],
    ['welch_df', () => must(welchTest(A, B), 'test').freedom],
    ['welch_low', () => must(welchTest(A, B), 'test').low],
    ['paired_p', () => must(pairedTest(A, B.slice(0, 9)), 'test').p],
    ['paired_high', () => must(pairedTest(A, B.slice(0, 9)), 'test').high],
    ['mean_low', () => must(meanInterval(FAR), 'interval').low],
    ['fisher', (a, b, c, d) => fisherExact(a!, b!, c!, d!)],
  ])('%s to a relative 1e-9', (name, f) => expect(worstOf(name, f)).toBeLessThan(1e-9));
  // R's factors are by numeric integration and a root of 1e-12.
  it('tolerance factors to 1e-9', () => {
    expect(worstOf('tolerance', (n, p, g) => toleranceFactor(n!, p!, g!))).toBeLessThan(1e-9);
    expect(offBy(toleranceFactor(10), valueOf('tolerance', 10, 0.95, 0.95))).toBeLessThan(1e-9);
  });
});

describe('against what is published', () => {
  // Newcombe (1998), Statistics in Medicine 17:857-872, table I: methods 3 (score) and 5 (exact).
  it.each([
    [81, 263, 0.2553, 0.3662, 0.2527, 0.3676],
    [15, 148, 0.0624, 0.1605, 0.0578, 0.1617],
    [0, 20, 0, 0.1611, 0, 0.1684],
    [1, 29, 0.0061, 0.1718, 0.0009, 0.1776],
  ])('%i of %i', (k, n, low, high, exactLow, exactHigh) => {
    const score = must(proportionInterval(k, n), 'interval');
    const exact = must(proportionInterval(k, n, 'clopper_pearson'), 'interval');
    expect([score.low, score.high].map((v) => v.toFixed(4))).toEqual([low, high].map((v) => v.toFixed(4)));
    expect([exact.low, exact.high].map((v) => v.toFixed(4))).toEqual(
      [exactLow, exactHigh].map((v) => v.toFixed(4)),
    );
  });
  // NIST/SEMATECH e-Handbook 7.2.6.3: N = 43, 90 % covered at 99 %: the factor by the non-central t is 1.8740 (from memory).
  it('the factor of the e-Handbook', () => expect(toleranceFactor(43, 0.9, 0.99)).toBeCloseTo(1.874, 3));
  // Owen's tables (1963), one-sided, 0.95 and 0.95 (values from memory).
  it.each([
    [2, 26.26],
    [3, 7.656],
    [10, 2.911],
    [30, 2.22],
    [100, 1.927],
  ])('Owen: %i values have %f', (n, k) => expect(Math.abs(toleranceFactor(n) / k - 1)).toBeLessThan(4e-4));
  // Wilks (1941): 59 values for 95/95, 299 for 99/95.
  it('Wilks: 59 and 299 values', () => {
    expect([orderRank(58), orderRank(59), orderRank(92), orderRank(93)]).toEqual([null, 59, 92, 92]);
    expect([orderRank(298, 0.99), orderRank(299, 0.99)]).toEqual([null, 299]);
    // Exactly, in whole numbers: coverage^n <= 1 - confidence, for all pairs of percents.
    const wrong: string[] = [];
    for (let coverage = 1; coverage <= 99; coverage++) {
      for (let confidence = 1; confidence <= 99; confidence++) {
        const holds = (n: number): boolean =>
          BigInt(coverage) ** BigInt(n) * 100n <= BigInt(100 - confidence) * 100n ** BigInt(n);
        const bound = orderUpperBound([], coverage / 100, confidence / 100);
        const n = bound.kind === 'none' ? bound.needed : NaN;
        const fits = holds(n) && (n === 1 || !holds(n - 1));
        const rank = orderRank(n, coverage / 100, confidence / 100);
        if (
          !fits ||
          rank === null ||
          (n > 1 && orderRank(n - 1, coverage / 100, confidence / 100) !== null)
        ) {
          wrong.push(`${coverage} ${confidence}: ${n}`);
        }
      }
    }
    expect(wrong).toEqual([]);
    expect(orderUpperBound([1, 2, 3])).toEqual({ kind: 'none', reason: 'too_few', needed: 59 });
    expect(orderUpperBound(Array.from({ length: 59 }, (_, i) => 59 - i))).toMatchObject({
      value: 59,
      rank: 59,
    });
  });
  // Mann & Whitney (1947): of 3 and 3 values no order has less than 2 in 20 at its ends.
  it('the smallest samples of Mann and Whitney', () => {
    expect(mannWhitney([1, 2, 3], [4, 5, 6])).toMatchObject({ u: 0, share: 0, exact: true });
    expect(must(mannWhitney([1, 2, 3], [4, 5, 6]), 'test').p).toBeCloseTo(0.1, 12);
    expect(must(mannWhitney([1], [2]), 'test').p).toBe(1);
  });
});

describe('little and odd data', () => {
  it('says that there is no answer, and why', () => {
    for (const method of INTERVAL_METHODS) expect(proportionInterval(0, 0, method)).toEqual({ kind: 'none' });
    expect(meanInterval([])).toEqual({ kind: 'none', reason: 'too_few', n: 0 });
    expect(meanInterval([3])).toEqual({ kind: 'none', reason: 'too_few', n: 1 });
    expect(meanInterval([3, 3])).toEqual({ kind: 'none', reason: 'no_spread', n: 2 });
    expect(welchTest([1], [2, 3])).toEqual({ kind: 'none', reason: 'too_few' });
    expect(welchTest([2, 2], [2, 2])).toEqual({ kind: 'none', reason: 'no_spread' });
    expect(pairedTest([1, 2], [0, 1])).toEqual({ kind: 'none', reason: 'no_spread' });
    expect(mannWhitney([], [1])).toEqual({ kind: 'none', reason: 'empty' });
    expect(mannWhitney([2, 2], [2])).toEqual({ kind: 'none', reason: 'all_equal' });
    expect(normalUpperBound([1])).toMatchObject({ kind: 'none', reason: 'too_few' });
    expect(normalUpperBound([1, 1, 1])).toMatchObject({ kind: 'none', reason: 'no_spread' });
    expect(mcnemarExact(0, 0)).toBe(1);
  });
  it('refuses what is impossible', () => {
    for (const wrong of [
      () => proportionInterval(3, 2),
      () => proportionInterval(1.5, 2),
      () => proportionInterval(1, 2, 'wilson', 1),
      () => mcnemarExact(-1, 2),
      () => mannWhitney([NaN], [1]),
      () => meanInterval([1, Infinity]),
      () => pairedTest([1, 2], [1]),
      () => toleranceFactor(1),
      () => toleranceFactor(1001),
      () => toleranceFactor(10, 1.2),
      () => orderRank(-1),
    ]) {
      expect(wrong).toThrow(/^stats\./);
    }
  });
});

describe('of any data', () => {
  const counts = fc
    .integer({ min: 1, max: 400 })
    .chain((n) => fc.record({ n: fc.constant(n), k: fc.integer({ min: 0, max: n }) }));
  it.each(INTERVAL_METHODS)(
    'the %s interval holds the share, moves with k and widens with confidence',
    (method) => {
      const of = (k: number, n: number, confidence = 0.95) =>
        must(proportionInterval(k, n, method, confidence), 'interval');
      fc.assert(
        fc.property(counts, ({ k, n }) => {
          const { low, high } = of(k, n);
          expect(low).toBeLessThanOrEqual(k / n + 1e-12);
          expect(high).toBeGreaterThanOrEqual(k / n - 1e-12);
          expect(low).toBeGreaterThanOrEqual(0);
          expect(high).toBeLessThanOrEqual(1);
          if (k < n) expect(of(k + 1, n).low).toBeGreaterThanOrEqual(low - 1e-12);
          const wide = of(k, n, 0.99);
          expect(wide.high - wide.low).toBeGreaterThanOrEqual(high - low - 1e-12);
        }),
        { numRuns: 80, seed: 3 },
      );
    },
  );
  const sample = fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 2, maxLength: 12 });
  it('a test of two samples does not care which comes first', () => {
    fc.assert(
      fc.property(sample, sample, (x, y) => {
        const one = mannWhitney(x, y);
        const other = mannWhitney(y, x);
        if (one.kind === 'test' && other.kind === 'test') {
          expect(one.p).toBeCloseTo(other.p, 10);
          expect(one.share + other.share).toBeCloseTo(1, 10);
        }
        const t = welchTest(x, y);
        const u = welchTest(y, x);
        if (t.kind === 'test' && u.kind === 'test') {
          expect(t.p).toBeCloseTo(u.p, 10);
          expect(t.low).toBeCloseTo(-u.high, 8);
        }
      }),
      { numRuns: 60, seed: 4 },
    );
  });
});
