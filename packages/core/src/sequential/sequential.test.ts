import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { numbers } from '../numbers-for-tests.ts';
import { named, offBy } from '../fixtures-for-tests.ts';
import {
  type CusumForm,
  cusumPath,
  cusumWeights,
  furtherPieces,
  limitFor,
  runLength,
  signalledBy,
  sprtBounds,
  waldOperating,
  sprtOperating,
  sprtPath,
} from './index.ts';

const RATES = { pGood: 0.1, pBad: 0.3 };
const PLAN = { ...RATES, alpha: 0.05, beta: 0.05 };
const meanOf = (h: number, form: CusumForm, p: number): number => {
  const run = runLength(RATES, h, form, p);
  if (run.kind === 'none') throw new Error(run.reason);
  return run.mean;
};

describe('the sequential probability ratio test', () => {
  // Wald (1947), Sequential Analysis, 5.4: p0 = 0.1, p1 = 0.3, alpha = 0.02, beta = 0.03 has slope 0.186, intercepts
  // -2.60 and 2.87 (from memory; the formulas give -2.583 and 2.875).
  it('the bounds of Wald’s example', () => {
    const bounds = sprtBounds({ ...RATES, alpha: 0.02, beta: 0.03 });
    expect(bounds.s).toBeCloseTo(0.186, 3);
    expect(bounds.h1).toBeCloseTo(2.875, 2);
    expect(bounds.h0).toBeCloseTo(2.583, 2);
  });
  it('running on tells each crossing once, restarting begins anew', () => {
    const fails = [1, 1, 1, 1, 1, 1];
    expect(sprtPath(fails, PLAN, 'running').decisions).toEqual([{ at: 2, decision: 'unacceptable' }]);
    expect(sprtPath(fails, PLAN, 'restarting').decisions.map((d) => d.at)).toEqual([2, 5]);
    const passes = Array.from({ length: 30 }, () => 0);
    expect(sprtPath(passes, PLAN, 'running').decisions).toEqual([{ at: 11, decision: 'acceptable' }]);
    expect(sprtPath([], PLAN, 'running')).toMatchObject({ path: [], decisions: [] });
  });
  it('keeps about the risks that it was asked for, exactly counted', () => {
    const good = sprtOperating(PLAN, 0.1);
    const bad = sprtOperating(PLAN, 0.3);
    // Wald's bounds overshoot, so the risks are mostly smaller.
    expect(good.unacceptable).toBeLessThan(0.055);
    expect(bad.acceptable).toBeLessThan(0.055);
    for (const point of [good, bad, sprtOperating(PLAN, 0.186)]) {
      expect(point.acceptable + point.unacceptable).toBeCloseTo(1, 11);
    }
    expect(sprtOperating(PLAN, 1)).toMatchObject({ unacceptable: 1, pieces: 3 });
    expect(sprtOperating(PLAN, 0)).toMatchObject({ acceptable: 1, pieces: 12 });
  });
  it('refuses plans that contradict themselves', () => {
    expect(() => sprtBounds({ ...PLAN, pBad: 0.1 })).toThrow('sequential.bad_rates');
    expect(() => sprtBounds({ ...PLAN, pGood: 0.4 })).toThrow('sequential.bad_rates');
    expect(() => sprtBounds({ ...PLAN, alpha: 0.6, beta: 0.4 })).toThrow('sequential.bad_risks');
    expect(() => sprtPath([2], PLAN, 'running')).toThrow('sequential.bad_outcome');
  });
});

describe('CUSUM charts', () => {
  it('weights are the log likelihood ratios, learning has them the other way', () => {
    const down = cusumWeights(RATES, 'deterioration');
    expect(down.fail).toBeCloseTo(Math.log(3), 14);
    expect(down.pass).toBeCloseTo(Math.log(7 / 9), 14);
    const up = cusumWeights(RATES, 'learning');
    expect(up.pass).toBeCloseTo(Math.log(9 / 7), 14);
    expect(up.fail).toBeCloseTo(-Math.log(3), 14);
  });
  it('never falls under 0, signals at the first value at the limit and goes on', () => {
    const chart = cusumPath([0, 0, 1, 1, 0, 1], RATES, 2 * Math.log(3), 'deterioration');
    expect(chart.path.slice(0, 3)).toEqual([0, 0, Math.log(3)]);
    expect(chart.signalAt).toBe(3);
    expect(chart.path).toHaveLength(6);
    expect(cusumPath([], RATES, 1, 'learning')).toMatchObject({ path: [], signalAt: null });
  });
});

describe('run lengths', () => {
  it('where one failure signals it is 1 / p, where two in a row have to it is (1 + p) / p^2', () => {
    for (const p of [0.05, 0.2, 0.7]) {
      expect(meanOf(1, 'deterioration', p)).toBeCloseTo(1 / p, 8);
      // A failure lifts by 1.0986; with pGood so near 1 - pBad a pass takes all of it back.
      const even = { pGood: 0.2, pBad: 0.8 };
      const run = runLength(even, 2 * Math.log(4), 'deterioration', p);
      expect(run.kind === 'run_length' && run.mean).toBeCloseTo((1 + p) / p ** 2, 8);
    }
    expect(runLength(RATES, 3, 'deterioration', 0)).toEqual({ kind: 'none', reason: 'never' });
    expect(meanOf(2 * Math.log(3), 'deterioration', 1)).toBe(2);
  });
  it.each<[CusumForm, number, number]>([
    ['deterioration', 2.4, 0.1],
    ['deterioration', 3.1, 0.3],
    ['learning', 1.25, 0.3],
    ['learning', 2.0, 0.1],
  ])('%s at h = %f and p = %f agrees with a simulation within its error', (form, h, p) => {
    const next = numbers(17);
    const runs = Array.from({ length: 4000 }, () => {
      const { pass, fail } = cusumWeights(RATES, form);
      let sum = 0;
      let n = 0;
      while (sum < h * (1 - 1e-12)) {
        sum = Math.max(0, sum + (next() < p ? fail : pass));
        n += 1;
      }
      return n;
    });
    const mean = runs.reduce((a, b) => a + b, 0) / runs.length;
    const sd = Math.sqrt(runs.reduce((a, b) => a + (b - mean) ** 2, 0) / (runs.length - 1));
    expect(Math.abs(mean - meanOf(h, form, p))).toBeLessThan((4 * sd) / Math.sqrt(runs.length));
    const by = signalledBy(RATES, h, form, p, 40);
    const share = runs.filter((n) => n <= 40).length / runs.length;
    expect(Math.abs(by[39]! - share)).toBeLessThan(4 * Math.sqrt(0.25 / runs.length));
  });
  it('the mean is the sum of the chances that the signal has not come', () => {
    const by = signalledBy(RATES, 1.9, 'deterioration', 0.35, 3000);
    expect(by.reduce((sum, b) => sum + (1 - b), 1)).toBeCloseTo(meanOf(1.9, 'deterioration', 0.35), 6);
    expect(by.every((b, i) => i === 0 || b >= by[i - 1]!)).toBe(true);
  });
  it.each<[CusumForm, number]>([
    ['deterioration', 0.1],
    ['learning', 0.3],
  ])('the limit of the %s chart is the least that gives 100 pieces to a false signal', (form, p) => {
    const { h, mean } = limitFor(RATES, form, 100);
    expect(mean).toBeGreaterThanOrEqual(100);
    expect(meanOf(h, form, p)).toBeCloseTo(mean, 9);
    expect(meanOf(h * (1 - 1e-5), form, p)).toBeLessThan(100);
  });
  it('rises with the limit and falls with the failure rate', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        fc.double({ min: 0.02, max: 0.9, noNaN: true }),
        (h, p) => {
          expect(meanOf(h + 0.4, 'deterioration', p)).toBeGreaterThanOrEqual(
            meanOf(h, 'deterioration', p) - 1e-9,
          );
          expect(meanOf(h, 'deterioration', p + 0.05)).toBeLessThanOrEqual(
            meanOf(h, 'deterioration', p) + 1e-9,
          );
        },
      ),
      { numRuns: 30, seed: 2 },
    );
    expect(() => runLength(RATES, 0, 'learning', 0.2)).toThrow('sequential.bad_limit');
    expect(() => runLength(RATES, 1, 'learning', 1.2)).toThrow('sequential.bad_share');
  });
});

describe('further pieces', () => {
  it('to three in a row', () => {
    const of = (streak: number, p: number) => furtherPieces(3, streak, p);
    expect(of(0, 1)).toEqual({ kind: 'pieces', pieces: 3 });
    expect(of(2, 1)).toEqual({ kind: 'pieces', pieces: 1 });
    expect(of(3, 0)).toEqual({ kind: 'pieces', pieces: 0 });
    expect(of(1, 0)).toEqual({ kind: 'none', reason: 'no_pass_expected' });
    for (const [j, p] of [
      [0, 0.8],
      [1, 0.5],
      [2, 0.999999],
    ] as const) {
      const found = of(j, p);
      expect(found.kind === 'pieces' && found.pieces).toBeCloseTo((p ** -3 - p ** -j) / (1 - p), 8);
    }
    expect(() => furtherPieces(0, 0, 0.5)).toThrow('stats.bad_count');
    expect(() => furtherPieces(3, 4, 0.5)).toThrow('stats.bad_count');
  });
});

describe('Wald’s approximation', () => {
  const plan = { pGood: 0.1, pBad: 0.3, alpha: 0.05, beta: 0.1 };
  // R 4.2, fixtures/make-more.R.
  it('expected pieces as by his formulas', () => {
    const wanted = named('wald_pieces');
    expect(wanted.length).toBeGreaterThan(4);
    for (const { args, value } of wanted) {
      const [pGood, pBad, alpha, beta, p] = args as [number, number, number, number, number];
      expect(offBy(waldOperating({ pGood, pBad, alpha, beta }, p).pieces, value), String(p)).toBeLessThan(
        1e-6,
      );
    }
  });
  it('meets the risks at the two rates, and goes through its place without drift smoothly', () => {
    expect(waldOperating(plan, plan.pGood).acceptable).toBeCloseTo(1 - plan.alpha, 9);
    expect(waldOperating(plan, plan.pBad).acceptable).toBeCloseTo(plan.beta, 9);
    const { s } = sprtBounds(plan);
    const [below, at, above] = [s - 1e-4, s, s + 1e-4].map((p) => waldOperating(plan, p));
    expect(at!.pieces).toBeCloseTo((below!.pieces + above!.pieces) / 2, 3);
    expect(at!.acceptable).toBeCloseTo((below!.acceptable + above!.acceptable) / 2, 5);
  });
  it('is near the exact test, which overshoots its bounds and so takes longer', () => {
    for (const p of [0.02, 0.1, 0.2, 0.3, 0.5]) {
      const wald = waldOperating(plan, p);
      const exact = sprtOperating(plan, p);
      expect(exact.pieces).toBeGreaterThan(wald.pieces);
      expect(exact.pieces).toBeLessThan(1.4 * wald.pieces + 2);
    }
    expect(waldOperating(plan, 0)).toMatchObject({
      acceptable: 1,
      pieces: Math.log(0.1 / 0.95) / Math.log(0.7 / 0.9),
    });
    expect(waldOperating(plan, 1)).toMatchObject({ acceptable: 0 });
    expect(() => waldOperating(plan, 1.2)).toThrow('sequential.bad_share');
  });
});
