import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { offBy, valueOf } from '../fixtures-for-tests.ts';
import {
  individualsChart,
  NELSON,
  pChart,
  RUN_RULES,
  type RunRule,
  runSignals,
  WESTERN_ELECTRIC,
} from './index.ts';

describe('individuals chart', () => {
  // NIST/SEMATECH e-Handbook 6.3.2.2, flow rates: mean 49.81, mean moving range 1.8778, limits 54.8041 and 44.8159.
  const FLOW = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1];
  it('with the exact constants the limits move in the fourth digit', () => {
    const exact = individualsChart(FLOW, 'exact');
    const printed = individualsChart(FLOW);
    if (exact.kind !== 'chart' || printed.kind !== 'chart') throw new Error();
    expect(offBy(exact.meanRange / exact.sigma, valueOf('d2'))).toBeLessThan(1e-12);
    expect(offBy(exact.rangeHigh / exact.meanRange, 1 + (3 * valueOf('d3')) / valueOf('d2'))).toBeLessThan(
      1e-9,
    );
    expect(Math.abs(exact.sigma / printed.sigma - 1)).toBeLessThan(4e-4);
    expect(exact.out).toEqual(printed.out);
  });
  it('the flow rates of the e-Handbook', () => {
    const chart = individualsChart(FLOW);
    if (chart.kind !== 'chart') throw new Error();
    expect(chart.centre).toBeCloseTo(50.81, 10);
    expect(chart.meanRange).toBeCloseTo(1.8778, 4);
    expect(chart.high - chart.centre).toBeCloseTo((3 * 1.8778) / 1.128, 3);
    expect(chart.centre - chart.low).toBeCloseTo(chart.high - chart.centre, 10);
    expect(chart.rangeHigh).toBeCloseTo(3.267 * 1.8778, 3);
    expect(chart.out).toEqual([]);
  });
  it('marks what is strictly outside, and the jump to it', () => {
    const chart = individualsChart([...FLOW.slice(0, 9).map((v) => 50 + (v - 50) / 10), 58]);
    expect(chart).toMatchObject({ out: [9], rangesOut: [9] });
  });
  it('is quiet over a constant series, far from zero as near it, and none over one value', () => {
    for (const v of [0, 0.1, 1e6 + 0.1]) {
      expect(individualsChart([v, v, v, v])).toMatchObject({
        kind: 'chart',
        sigma: 0,
        out: [],
        rangesOut: [],
      });
    }
    expect(individualsChart([3])).toEqual({ kind: 'none', reason: 'too_few' });
    expect(individualsChart([])).toEqual({ kind: 'none', reason: 'too_few' });
    expect(() => individualsChart([1, NaN])).toThrow('stats.not_finite');
  });
});

describe('p chart', () => {
  // NIST/SEMATECH e-Handbook 6.3.3.2, wafers: 30 samples of 50, mean 0.2313, limits 0.0524 and 0.4102.
  const WAFERS = [
    12, 15, 8, 10, 4, 7, 16, 9, 14, 10, 5, 6, 17, 12, 22, 8, 10, 5, 13, 11, 20, 18, 24, 15, 9, 12, 7, 13, 9,
    6,
  ];
  it('the wafers of the e-Handbook: two samples are out', () => {
    const chart = pChart(WAFERS.map((k) => ({ k, n: 50 })));
    if (chart.kind !== 'chart') throw new Error();
    expect(chart.centre).toBeCloseTo(0.2313, 4);
    expect(chart.points[0]!.low).toBeCloseTo(0.0524, 4);
    expect(chart.points[0]!.high).toBeCloseTo(0.4102, 4);
    expect(chart.points.flatMap((p, i) => (p.out ? [i + 1] : []))).toEqual([15, 23]);
  });
  it('each n has its limits, clipped; all pass, all fail and nothing counted are quiet', () => {
    const chart = pChart([
      { k: 1, n: 2 },
      { k: 0, n: 0 },
      { k: 60, n: 80 },
    ]);
    if (chart.kind !== 'chart') throw new Error();
    expect(chart.points[0]).toMatchObject({ high: 1, out: false });
    expect(chart.points[1]).toMatchObject({ share: null, out: false });
    expect(chart.points[2]!.high).toBeLessThan(1);
    for (const k of [0, 9]) {
      const flat = pChart([1, 2, 3].map(() => ({ k, n: 9 })));
      expect(flat.kind === 'chart' && flat.points.some((p) => p.out)).toBe(false);
    }
    expect(pChart([])).toEqual({ kind: 'none', reason: 'empty' });
    expect(() => pChart([{ k: 3, n: 2 }])).toThrow('stats.bad_count');
  });
});

describe('run rules', () => {
  const at = (values: readonly number[], rule: RunRule): number[] =>
    runSignals(values, 0, 1, [rule]).map((s) => s.at);
  const times = (n: number, v: number): number[] => Array.from({ length: n }, () => v);
  it.each<[RunRule, readonly number[], readonly number[]]>([
    ['beyond_3', [0, 3, 3.1, -4], [2, 3]],
    ['two_of_3_beyond_2', [2.5, 0, 2.5, 0, -2.5], [2]],
    ['two_of_3_beyond_2', [2.5, -2.5, 0], []],
    // A window counts at its last point, wherever in it the points lie that are beyond.
    ['two_of_3_beyond_2', [2.3, 2.4, 0.1], [2]],
    ['two_of_3_beyond_2', [2.3, 2.4, 0.1, 0.1, 2.5], [2]],
    ['two_of_3_with_last_beyond_2', [2.3, 2.4, 0.1], []],
    ['two_of_3_with_last_beyond_2', [2.3, 0.1, 2.4, 0.1], [2]],
    ['two_of_3_with_last_beyond_2', [2.3, 2.4], []],
    ['four_of_5_beyond_1', [1.5, 1.5, 1.5, 1.5, 0], [4]],
    ['four_of_5_with_last_beyond_1', [-1.5, -1.5, -1.5, -1.5, 0, -1.5], [5]],
    ['four_of_5_with_last_beyond_1', [1.5, 1.5, 1.5, -1.5, 1.5, 1.5], [4, 5]],
    ['four_of_5_beyond_1', [1.5, 1.5, 0, 1.5, 1.5, 1.5], [4, 5]],
    ['run_of_8', times(9, 0.5), [7, 8]],
    ['run_of_8', [...times(7, 0.5), 0, ...times(7, 0.5)], []],
    ['run_of_9', times(9, -0.2), [8]],
    ['six_in_one_direction', [1, 2, 3, 4, 5, 6, 7], [5, 6]],
    ['six_in_one_direction', [6, 5, 4, 3, 2, 2, 1], []],
    ['fourteen_alternating', [0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1], [13]],
    ['fifteen_within_1', times(15, 0.9), [14]],
    ['fifteen_within_1', times(15, 1), []],
    ['eight_beyond_1', [1.5, -1.5, 1.5, -1.5, 1.5, -1.5, 1.5, -1.5], [7]],
  ])('%s in %j is told at %j', (rule, values, wanted) => expect(at(values, rule)).toEqual(wanted));
  /** The rules by their words: every window as a list of its own. */
  const inWords: Readonly<Record<RunRule, readonly [number, (window: readonly number[]) => boolean]>> = {
    beyond_3: [1, ([x]) => Math.abs(x!) > 3],
    two_of_3_beyond_2: [3, (w) => bothSides(w, (v) => v.filter((x) => x > 2).length >= 2)],
    four_of_5_beyond_1: [5, (w) => bothSides(w, (v) => v.filter((x) => x > 1).length >= 4)],
    two_of_3_with_last_beyond_2: [
      3,
      (w) => bothSides(w, (v) => v[2]! > 2 && v.filter((x) => x > 2).length >= 2),
    ],
    four_of_5_with_last_beyond_1: [
      5,
      (w) => bothSides(w, (v) => v[4]! > 1 && v.filter((x) => x > 1).length >= 4),
    ],
    run_of_8: [8, (w) => bothSides(w, (v) => v.every((x) => x > 0))],
    run_of_9: [9, (w) => bothSides(w, (v) => v.every((x) => x > 0))],
    six_in_one_direction: [6, (w) => bothSides(w, (v) => v.every((x, i) => i === 0 || x > v[i - 1]!))],
    fourteen_alternating: [
      14,
      (w) => w.every((x, i) => i < 2 || (x - w[i - 1]!) * (w[i - 1]! - w[i - 2]!) < 0),
    ],
    fifteen_within_1: [15, (w) => w.every((x) => Math.abs(x) < 1)],
    eight_beyond_1: [8, (w) => w.every((x) => Math.abs(x) > 1)],
  };
  const bothSides = (w: readonly number[], holds: (v: readonly number[]) => boolean): boolean =>
    holds(w) || holds(w.map((x) => -x));
  it.each(RUN_RULES)('%s is what its words say of every window', (rule) => {
    const [n, holds] = inWords[rule];
    const point = fc.constantFrom(-3.5, -2.5, -1.5, -0.5, 0, 0.4, 0.5, 1.5, 2.5, 3.5);
    const series = fc.oneof(
      fc.array(point, { maxLength: 60 }),
      // Rare in random points: one side, near the centre, up and down.
      fc.array(fc.constantFrom(0.4, 0.5, 1.5), { maxLength: 40 }),
      fc.array(fc.constantFrom(-0.5, 0.4), { maxLength: 60 }),
      fc.array(fc.integer({ min: 1, max: 3 }), { maxLength: 40 }).map((steps) => {
        let sum = 0;
        return steps.map((x, i) => (sum += rule === 'fourteen_alternating' && i % 2 ? -x : x) / 10);
      }),
    );
    fc.assert(
      fc.property(series, (values) => {
        const wanted = values.flatMap((_, i) =>
          i + 1 >= n && holds(values.slice(i + 1 - n, i + 1)) ? [i] : [],
        );
        expect(at(values, rule)).toEqual(wanted);
      }),
    );
  });
  it('a series of one value is quiet by either set, and so is none', () => {
    for (const rules of [WESTERN_ELECTRIC, NELSON]) {
      expect(runSignals(times(40, 0.3), 0.3, 0, rules)).toEqual([]);
      expect(runSignals([], 0, 1, rules)).toEqual([]);
    }
    expect(WESTERN_ELECTRIC).toContain('run_of_8');
    expect(NELSON).toContain('run_of_9');
    expect(() => runSignals([1], 0, -1, NELSON)).toThrow('stats.bad_sigma');
  });
});
