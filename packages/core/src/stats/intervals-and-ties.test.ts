import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { named, offBy, valueOf } from '../fixtures-for-tests.ts';
import { type IntervalMethod, mannWhitney, proportionInterval } from './index.ts';

// R 4.2, fixtures/make-more.R.
describe('intervals of a proportion', () => {
  it.each<[string, IntervalMethod]>([
    ['wilson_cc', 'wilson_corrected'],
    ['mid_p', 'mid_p'],
  ])('%s to 1e-9', (name, method) => {
    for (const side of ['low', 'high'] as const) {
      const wanted = named(`${name}_${side}`);
      expect(wanted.length).toBeGreaterThan(10);
      for (const { args, value } of wanted) {
        const found = proportionInterval(args[0]!, args[1]!, method, args[2]);
        expect(
          found.kind === 'interval' && offBy(found[side], value),
          `${side} ${args.join(' ')}`,
        ).toBeLessThan(1e-9);
      }
    }
  });
  // Newcombe (1998), table I, 81 of 263: method 4 gives 0.2535 to 0.3682 and method 6, mid-p, 0.2544 to 0.3658.
  it('as Newcombe printed them', () => {
    const found = (method: IntervalMethod) => proportionInterval(81, 263, method);
    expect(found('wilson_corrected')).toMatchObject({
      low: expect.closeTo(0.2535, 4) as number,
      high: expect.closeTo(0.3682, 4) as number,
    });
    expect(found('mid_p')).toMatchObject({
      low: expect.closeTo(0.2544, 4) as number,
      high: expect.closeTo(0.3658, 4) as number,
    });
  });
  it('corrected is wider than Wilson’s, mid-p narrower than the exact one', () => {
    const counts = fc
      .integer({ min: 1, max: 300 })
      .chain((n) => fc.record({ n: fc.constant(n), k: fc.integer({ min: 0, max: n }) }));
    const width = (method: IntervalMethod, k: number, n: number): number => {
      const found = proportionInterval(k, n, method);
      return found.kind === 'none' ? NaN : found.high - found.low;
    };
    fc.assert(
      fc.property(counts, ({ k, n }) => {
        expect(width('wilson_corrected', k, n)).toBeGreaterThan(width('wilson', k, n));
        expect(width('mid_p', k, n)).toBeLessThanOrEqual(width('clopper_pearson', k, n) + 1e-12);
      }),
    );
  });
});

describe('Mann-Whitney with ties, exactly', () => {
  const PAIRS: [number[], number[]][] = [
    [
      [1, 2, 2, 3],
      [2, 3, 3, 4, 5],
    ],
    [
      [0.2, 0.2, 0.3],
      [0.2, 0.3, 0.3, 0.3],
    ],
    [
      [1, 1, 1, 2],
      [1, 2, 2, 2, 2],
    ],
    [
      [5, 6, 7, 7, 9, 9],
      [1, 2, 6, 7, 7, 3, 3],
    ],
    [
      [1, 1],
      [1, 2],
    ],
  ];
  it.each(PAIRS.map((pair, i) => [i, ...pair] as const))('pair %i', (i, first, second) => {
    const found = mannWhitney(first, second, 'exact');
    expect(found).toMatchObject({ kind: 'test', exact: true });
    expect(found.kind === 'test' && offBy(found.p, valueOf('mann_whitney_tied', i))).toBeLessThan(1e-12);
    expect(mannWhitney(first, second)).toMatchObject({ exact: false });
  });
  it('is the usual exact test where no values are tied, and says no more than it can of many', () => {
    const distinct = fc.uniqueArray(fc.integer({ min: 0, max: 1000 }), { minLength: 2, maxLength: 24 });
    fc.assert(
      fc.property(distinct, fc.integer({ min: 1, max: 23 }), (all, cut) => {
        const first = all.slice(0, cut);
        const second = all.slice(cut);
        if (first.length === 0 || second.length === 0) return;
        const usual = mannWhitney(first, second);
        // The same counting with one pair made equal to itself: a tie of a group of one.
        expect(mannWhitney(first, second, 'exact')).toEqual(usual);
      }),
    );
    const many = Array.from({ length: 60 }, (_, i) => i % 5);
    expect(mannWhitney(many, many, 'exact')).toMatchObject({ exact: false });
    const some = many.slice(0, 50);
    expect(mannWhitney(some, some, 'exact')).toMatchObject({ exact: true, p: 1 });
    expect(mannWhitney([2, 2], [2, 2], 'exact')).toEqual({ kind: 'none', reason: 'all_equal' });
  });
});
