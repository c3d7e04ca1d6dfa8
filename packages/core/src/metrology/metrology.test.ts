import { describe, expect, it } from 'vitest';
import { numbers } from '../numbers-for-tests.ts';
import { named, worstOf } from '../fixtures-for-tests.ts';
import { normalQuantile } from '../special/index.ts';
import { processRisk, readingRisk, uncertaintyOf, upperCapability } from './index.ts';

describe('uncertainty budget', () => {
  it('shapes, sensitivities and shares', () => {
    const found = uncertaintyOf([
      { name: 'meter', value: 0.1, shape: 'rectangular' },
      { name: 'repeat', value: 0.03, shape: 'standard' },
    ]);
    expect(found.standard).toBeCloseTo(Math.sqrt(0.01 / 3 + 0.0009), 15);
    expect(found.expanded).toBeCloseTo(2 * found.standard, 15);
    expect(found.freedom).toBeNull();
    expect(found.lines.reduce((sum, l) => sum + l.share, 0)).toBeCloseTo(1, 12);
    const twice = uncertaintyOf([{ name: 'slope', value: 0.1, shape: 'u_shaped', sensitivity: -2 }]);
    expect(twice.standard).toBeCloseTo(0.2 / Math.SQRT2, 15);
  });
  // JCGM 100:2008, H.1.6: the end gauge, 32 nm with 16 effective degrees of freedom, t(99 %) = 2.92: 93 nm.
  it('Welch and Satterthwaite as in the end gauge of the Guide', () => {
    const found = uncertaintyOf(
      [
        { name: 'standard', value: 25, shape: 'standard', freedom: 18 },
        { name: 'comparison', value: 9.7, shape: 'standard', freedom: 25.6 },
        { name: 'expansion', value: 2.9, shape: 'standard', freedom: 50 },
        { name: 'temperature', value: 16.6, shape: 'standard', freedom: 2 },
      ],
      'student',
    );
    expect(found.standard).toBeCloseTo(31.7, 1);
    expect(Math.floor(found.freedom!)).toBe(16);
    expect(found.coverageFactor).toBeGreaterThan(2.1);
  });
  it('nothing known gives nothing, and what is impossible is refused', () => {
    expect(uncertaintyOf([])).toMatchObject({ standard: 0, expanded: 0, freedom: null });
    for (const part of [
      { name: 'x', value: -1, shape: 'standard' },
      { name: 'x', value: 1, shape: 'standard', freedom: 0 },
      { name: 'x', value: NaN, shape: 'triangular' },
    ] as const) {
      expect(() => uncertaintyOf([part])).toThrow('metrology.bad_contribution');
    }
  });
});

describe('verdicts and risks', () => {
  // mpmath, fixtures/make-precise.py.
  it.each([
    ['false_accept', 'falseAccept'],
    ['false_reject', 'falseReject'],
  ] as const)('%s to 1e-10, also where the error is a thousandth of the spread', (name, key) => {
    const f = (mean: number, sd: number, limit: number, u: number, guard: number): number =>
      processRisk(mean, sd, limit, u, guard)[key];
    expect(named(name).length).toBeGreaterThan(4);
    expect(worstOf(name, (...a) => f(a[0]!, a[1]!, a[2]!, a[3]!, a[4]!))).toBeLessThan(1e-10);
  });
  it('of one reading: a half at the limit, a sixth one u under it', () => {
    expect(readingRisk(1, 1, 0.2).accepted).toBeCloseTo(0.5, 14);
    expect(readingRisk(0.8, 1, 0.2).accepted).toBeCloseTo(0.158655253931457, 12);
    expect(readingRisk(0.8, 1, 0.2).rejected).toBeCloseTo(1 - 0.158655253931457, 12);
    expect(() => readingRisk(1, 1, 0)).toThrow('metrology.bad_uncertainty');
  });
  it('over a process: as a simulation finds, and less of one for more of the other with a guard', () => {
    const next = numbers(5);
    const normal = (): number => normalQuantile(next());
    const mean = 0.5;
    const sd = 0.12;
    const limit = 0.7;
    const u = 0.06;
    const n = 60_000;
    let accepted = 0;
    let rejected = 0;
    for (let i = 0; i < n; i++) {
      const x = mean + sd * normal();
      const y = x + u * normal();
      if (x > limit && y <= limit) accepted += 1;
      if (x <= limit && y > limit) rejected += 1;
    }
    const risk = processRisk(mean, sd, limit, u);
    for (const [seen, said] of [
      [accepted, risk.falseAccept],
      [rejected, risk.falseReject],
    ] as const) {
      expect(Math.abs(seen / n - said)).toBeLessThan(4 * Math.sqrt((said * (1 - said)) / n));
    }
    const guarded = processRisk(mean, sd, limit, u, 0.1);
    expect(guarded.falseAccept).toBeLessThan(risk.falseAccept);
    expect(guarded.falseReject).toBeGreaterThan(risk.falseReject);
    // Each bad one is either accepted falsely or rejected rightly: with hardly any error none is accepted.
    expect(processRisk(mean, sd, limit, 1e-4).falseAccept).toBeLessThan(1e-3);
    expect(risk.badOfAccepted!).toBeGreaterThan(risk.falseAccept);
  });
});

describe('capability against an upper limit', () => {
  it('its bound is what the true index is over as often as it says', () => {
    const next = numbers(23);
    const truth = 1.1;
    let over = 0;
    for (let round = 0; round < 300; round++) {
      const values = Array.from({ length: 15 }, () => normalQuantile(next()));
      const found = upperCapability(values, 3 * truth, 0.9);
      if (found.kind === 'capability' && found.atLeast <= truth) over += 1;
    }
    expect(over / 300).toBeGreaterThan(0.9 - 4 * Math.sqrt(0.09 / 300));
    expect(over / 300).toBeLessThan(0.9 + 4 * Math.sqrt(0.09 / 300));
  });
  it('little data and none', () => {
    expect(upperCapability([1], 2)).toEqual({ kind: 'none', reason: 'too_few' });
    expect(upperCapability([1, 1], 2)).toEqual({ kind: 'none', reason: 'no_spread' });
    expect(upperCapability([0, 1], 0.5)).toMatchObject({ index: 0 });
    expect(() => upperCapability([1, 2], NaN)).toThrow('metrology.bad_limit');
  });
});
