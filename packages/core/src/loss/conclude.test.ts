import { describe, expect, it } from 'vitest';
import { RULES } from '../sheet/sheet-for-tests.ts';
import type { LinkUnderTest } from '../sheet/index.ts';
import {
  concludeLoss,
  type ConclusionInput,
  convertPower,
  type JudgedReading,
  lossTerms,
  readingsAgree,
  uncertaintyBudget,
} from './index.ts';

const SINGLE: LinkUnderTest = {
  fiberClass: 'OS2',
  lengthM: 200,
  matedPairs: 2,
  splices: 2,
  referenceMethod: 'one_cord',
};
const rules = {
  ...RULES,
  fiberDbPerKm: { ...RULES.fiberDbPerKm, 850: { db: 3, source: RULES.spliceDb.source } },
  expectedFiberDbPerKm: { ...RULES.expectedFiberDbPerKm, 850: 2.5 },
  floorDbPerKm: { ...RULES.floorDbPerKm, 850: 2.2 },
};
const read = (
  wavelengthNm: number,
  lossDb: number | null,
  verdict: string,
  more: Partial<JudgedReading> = {},
) => ({
  wavelengthNm,
  lossDb,
  verdict,
  direction: null,
  fiber: null,
  reason: null,
  ...more,
});
const say = (readings: readonly JudgedReading[], more: Partial<ConclusionInput> = {}) => {
  const link = more.link ?? SINGLE;
  const terms = new Map([850, 1310, 1550].map((nm) => [nm, lossTerms(link, rules, nm)]));
  return concludeLoss({ link, terms, readings, bendStepDb: 0.5, conditioned: null, ...more });
};
const codes = (...args: Parameters<typeof say>): string[] => say(...args).map((c) => c.code);
const MULTI: LinkUnderTest = { ...SINGLE, fiberClass: 'OM3', splices: 0 };

// The patterns are common practice; the limit of the single-mode link is 0.2 + 1.5 + 0.6 = 2.3 dB.
describe('what the readings say together', () => {
  it('nothing without readings', () => expect(say([])).toEqual([]));
  it('1550 far above 1310 is a bend, both high are the joints', () => {
    expect(codes([read(1310, 0.8, 'pass'), read(1550, 1.4, 'pass')])).toEqual(['bend']);
    expect(codes([read(1310, 2.6, 'fail'), read(1550, 2.7, 'fail')])).toEqual(['joints']);
    expect(say([read(1310, 2.6, 'fail')])[0]!.params).toMatchObject({
      over: 0.3,
      limit: 2.3,
      connections: 2,
    });
  });
  it('a loss under zero is the reference and nothing else', () => {
    const bad = read(1310, -0.4, 'void', { reason: 'void.negative_loss' });
    expect(codes([bad, read(1550, 2.7, 'fail')])).toEqual(['reference_bad']);
  });
  it('a larger core into a smaller one shows one way only', () => {
    const both = [read(850, 4.2, 'fail', { direction: 'a_b' }), read(850, 1.0, 'pass', { direction: 'b_a' })];
    expect(codes(both, { link: MULTI })).toEqual(['core_mismatch']);
    // Into a single-mode core nearly all of the light is lost.
    const single = [{ ...both[0]!, lossDb: 17 }, both[1]!];
    expect(codes(single, { link: MULTI })).toEqual(['multimode_into_single']);
    // High both ways is no step of the core.
    expect(codes([both[0]!, { ...both[1]!, lossDb: 4.1, verdict: 'fail' }], { link: MULTI })).toEqual([
      'joints',
    ]);
  });
  it('from one direction alone a core is only suspected, beside the joints', () => {
    // Common practice: 62.5 into 50 um loses about 3 dB, multimode into single-mode 20 dB and more.
    const high = (lossDb: number) => say([read(850, lossDb, 'fail')], { link: MULTI });
    expect(high(5).map((c) => c.code)).toEqual(['joints', 'core_suspected']);
    expect(high(5)[1]!.params).toMatchObject({ into: '50 µm' });
    expect(high(24)[1]!.params).toMatchObject({ into: 'single-mode' });
    expect(high(2.6).map((c) => c.code)).toEqual(['joints']);
    expect(codes([read(1310, 24, 'fail')])).toEqual(['joints']);
  });
  it('just over the limit without the mandrel is the launch', () => {
    const over = [read(850, 2.3, 'fail')];
    expect(codes(over, { link: MULTI, conditioned: false })).toEqual(['mode_conditioning']);
    expect(codes(over, { link: MULTI, conditioned: true })).toEqual(['joints']);
  });
  it('one fiber of a row, one direction, no light', () => {
    const row = [1, 2, 3, 4].map((fiber) =>
      read(1310, fiber === 3 ? 3 : 0.9, fiber === 3 ? 'fail' : 'pass', { fiber }),
    );
    expect(say(row)[0]).toMatchObject({ code: 'one_fiber', params: { fiber: 3, others: 3 } });
    const oneWay = [
      read(1310, 2.9, 'fail', { direction: 'a_b' }),
      read(1310, 1.0, 'pass', { direction: 'b_a' }),
    ];
    expect(codes(oneWay)).toEqual(['one_direction']);
    expect(codes([read(1310, null, 'fail', { reason: 'loss.no_light' })])).toContain('no_light');
  });
  it('good, poor, marginal and too good to be true', () => {
    // Expected: 0.2 x 0.35 + 2 x 0.25 + 2 x 0.05 = 0.67 dB at 1310 nm.
    expect(codes([read(1310, 0.7, 'pass')])).toEqual(['good_work']);
    // Two connections that should lose 0.3 each and lose 0.7 each pass the limit and are still bad work.
    expect(say([read(1310, 1.5, 'pass')])[0]).toMatchObject({
      code: 'poor_work',
      params: { connections: 2, each: 0.42 },
    });
    expect(codes([read(1310, 2.25, 'marginal_pass')])).toEqual(['marginal', 'poor_work']);
    expect(codes([read(1310, 0.01, 'pass')])).toEqual(['suspect']);
  });
});

describe('budget, agreement, power', () => {
  // JCGM 100:2008, H.1: components as standard uncertainties; here a rectangle and a normal one by hand.
  it('shares of the variance', () => {
    const budget = uncertaintyBudget([
      { name: 'a', shape: 'rectangular', db: 0.1 },
      { name: 'b', shape: 'standard', db: 0.03 },
    ]);
    expect(budget.expandedDb).toBeCloseTo(2 * Math.sqrt(0.01 / 3 + 0.0009), 14);
    expect(budget.lines[0]!.share).toBeCloseTo(0.01 / 3 / (0.01 / 3 + 0.0009), 12);
    expect(budget.lines.reduce((sum, l) => sum + l.share, 0)).toBeCloseTo(1, 12);
    expect(uncertaintyBudget([{ name: 'none', shape: 'standard', db: 0 }]).lines[0]!.share).toBe(0);
    expect(() => uncertaintyBudget([{ name: 'x', shape: 'standard', db: Number.NaN }])).toThrow(
      'loss.bad_uncertainty',
    );
  });
  it('two readings agree within both uncertainties', () => {
    expect(readingsAgree(0.42, 0.3, 0.11, 0.11)).toMatchObject({ agree: true });
    expect(readingsAgree(0.5, 0.3, 0.11, 0.11)).toMatchObject({ agree: false });
    expect(readingsAgree(0.3, 0.4, 0.1, 0).agree).toBe(true);
  });
  // By definition: 0 dBm is 1 mW, 10 dB a factor of ten.
  it.each([
    [1, 'mW', 0, 'dBm'],
    [-30, 'dBm', 1, 'uW'],
    [-60, 'dBm', 1, 'nW'],
    [2.5, 'uW', 2500, 'nW'],
    [10, 'dBm', 10, 'mW'],
    [0.0005, 'mW', 0.5, 'uW'],
  ] as const)('%f %s is %f %s', (value, from, wanted, to) => {
    expect(convertPower(value, from, to)).toBeCloseTo(wanted, 9);
    expect(convertPower(wanted, to, from)).toBeCloseTo(value, 9);
  });
  it('no power has no level', () => {
    expect(() => convertPower(0, 'uW', 'dBm')).toThrow('loss.no_power');
    expect(() => convertPower(Number.NaN, 'dBm', 'mW')).toThrow('loss.no_power');
  });
});
