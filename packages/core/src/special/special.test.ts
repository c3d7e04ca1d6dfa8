import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { named, offBy, worstOf } from '../fixtures-for-tests.ts';
import {
  betaQuantile,
  betaShare,
  binomialCdf,
  binomialPmf,
  devianceTerm,
  gammaShare,
  integrate,
  logGamma,
  noncentralT,
  noncentralTQuantile,
  normalQuantile,
  normalShare,
  rootOf,
  stirlingError,
  studentQuantile,
  studentShare,
} from './index.ts';

describe('against R', () => {
  it.each<[string, number, (...args: number[]) => number]>([
    ['pnorm', 1e-14, (z) => normalShare(z!).below],
    ['pnorm_upper', 1e-14, (z) => normalShare(z!).above],
    ['qnorm', 1e-14, (p) => normalQuantile(p!)],
    ['lgamma', 5e-13, (x) => logGamma(x!)],
    ['qbeta', 1e-11, (p, a, b) => betaQuantile(p!, a!, b!)],
    ['pgamma', 1e-12, (a, x) => gammaShare(a!, x!).below],
    ['pgamma_upper', 1e-12, (a, x) => gammaShare(a!, x!).above],
    ['pt', 1e-12, (t, n) => studentShare(t!, n!).below],
    ['qt', 1e-12, (p, n) => studentQuantile(p!, n!)],
    ['dbinom', 1e-12, (k, n, p) => binomialPmf(k!, n!, p!)],
    ['pbinom', 1e-11, (k, n, p) => binomialCdf(k!, n!, p!)],
  ])('%s to a relative %f', (name, error, f) => {
    expect(named(name).length).toBeGreaterThan(8);
    expect(worstOf(name, f)).toBeLessThan(error);
  });
  // The smaller share of the two keeps its digits; the larger is 1 less it.
  it.each([
    ['pbeta', 'below'],
    ['pbeta_upper', 'above'],
  ] as const)('%s', (name, side) => {
    const of = (x: number, a: number, b: number): number => betaShare(x, a, b)[side];
    for (const { args, value } of named(name)) {
      const got = of(args[0]!, args[1]!, args[2]!);
      if (value > 1e-290 && value < 0.5) expect(offBy(got, value)).toBeLessThan(2e-12);
      else expect(Math.abs(got - value)).toBeLessThan(1e-12);
    }
  });
  // R says of some of its own values that they may not be exact to the last digits.
  it('the non-central t to 1e-10', () => {
    for (const { args, value } of named('pnct')) {
      expect(Math.abs(noncentralT(args[0]!, args[1]!, args[2]!) - value)).toBeLessThan(1e-10);
    }
  });
});

describe('by what is known of them', () => {
  it('Stirling of 1 and 10, the deviance of 2 about 1', () => {
    expect(stirlingError(1)).toBeCloseTo(1 - Math.log(2 * Math.PI) / 2, 15);
    expect(stirlingError(10)).toBeCloseTo(
      Math.log(3628800) - (0.5 * Math.log(20 * Math.PI) + 10 * Math.log(10) - 10),
      13,
    );
    expect(devianceTerm(2, 1)).toBeCloseTo(2 * Math.log(2) - 1, 15);
    expect(devianceTerm(3.0001, 3)).toBeCloseTo(3.0001 * Math.log(3.0001 / 3) - 0.0001, 15);
  });
  it('a central t is Student’s; so is a mirrored one', () => {
    for (const t of [-3, 0.4, 2]) {
      expect(noncentralT(t, 7, 0)).toBeCloseTo(studentShare(t, 7).below, 13);
      expect(noncentralT(t, 7, 1.5)).toBeCloseTo(1 - noncentralT(-t, 7, -1.5), 12);
    }
  });
  it('quantiles lead back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 1 - 1e-6, noNaN: true }),
        fc.integer({ min: 1, max: 200 }),
        (p, n) => {
          expect(normalShare(normalQuantile(p)).below).toBeCloseTo(p, 13);
          expect(studentShare(studentQuantile(p, n), n).below).toBeCloseTo(p, 12);
          expect(betaShare(betaQuantile(p, n / 3, 2), n / 3, 2).below).toBeCloseTo(p, 11);
        },
      ),
      { numRuns: 60, seed: 5 },
    );
    expect(noncentralT(noncentralTQuantile(0.95, 9, 5.2), 9, 5.2)).toBeCloseTo(0.95, 12);
  });
  it('a root to its last digit', () => {
    expect(rootOf((x) => x * x - 2, 0, 2)).toBeCloseTo(Math.SQRT2, 15);
    expect(rootOf((x) => x ** 3, -1, 3)).toBeCloseTo(0, 5);
    expect(() => rootOf((x) => x * x + 1, -1, 1)).toThrow('stats.no_root');
  });
  it('ends and what is outside', () => {
    expect(betaShare(0, 2, 3)).toEqual({ below: 0, above: 1 });
    expect(betaShare(1, 2, 3)).toEqual({ below: 1, above: 0 });
    expect(gammaShare(2, 0)).toEqual({ below: 0, above: 1 });
    expect(gammaShare(2, Infinity).below).toBe(1);
    expect(binomialCdf(-1, 3, 0.2)).toBe(0);
    expect(binomialCdf(3, 3, 0.2)).toBe(1);
    expect(binomialPmf(0, 0, 0.3)).toBe(1);
    expect(binomialPmf(2, 5, 0)).toBe(0);
    expect(binomialPmf(5, 5, 1)).toBe(1);
    expect(studentShare(Infinity, 4).above).toBe(0);
    for (const wrong of [
      () => betaShare(1.1, 2, 3),
      () => gammaShare(0, 2),
      () => normalQuantile(1),
      () => studentQuantile(0.5, 0),
      () => noncentralT(1, 0.5, 1),
      () => binomialCdf(1, 2.5, 0.4),
    ]) {
      expect(wrong).toThrow(/^stats\./);
    }
  });
});

describe('adaptive quadrature', () => {
  it('is exact for polynomials up to degree 22 without halving', () => {
    let asked = 0;
    for (let degree = 0; degree <= 22; degree++) {
      const { value } = integrate(
        (x) => {
          asked += 1;
          return x ** degree;
        },
        -1,
        2,
      );
      expect(offBy(value, (2 ** (degree + 1) - (-1) ** (degree + 1)) / (degree + 1))).toBeLessThan(1e-14);
    }
    expect(asked / 23).toBeLessThan(200);
  });
  it('finds steps, peaks and kinks, with an error that holds', () => {
    const peak = (width: number) => (x: number) => Math.exp(-(((x - 0.3) / width) ** 2) / 2);
    for (const width of [1, 1e-2, 1e-4]) {
      const found = integrate(peak(width), -30, 30, { breaks: [-9, 0, 9].map((k) => 0.3 + k * width) });
      expect(offBy(found.value, width * Math.sqrt(2 * Math.PI))).toBeLessThan(1e-13);
    }
    const kink = integrate((x) => Math.abs(x - 0.1), 0, 1);
    expect(Math.abs(kink.value - 0.41)).toBeLessThanOrEqual(kink.error + 1e-16);
    expect(offBy(integrate((x) => 1 / Math.sqrt(x), 1e-12, 1).value, 2 - 2e-6)).toBeLessThan(1e-12);
  });
  it('of nothing is 0, and what is no number is refused', () => {
    expect(integrate(() => 1, 2, 2)).toEqual({ value: 0, error: 0 });
    expect(() => integrate(() => NaN, 0, 1)).toThrow('stats.not_finite');
    expect(() => integrate((x) => Math.sin(1 / x), 0, 1, { absolute: 0, relative: 1e-16 })).toThrow(
      'stats.no_convergence',
    );
  });
});

describe('the non-central t by its own laws', () => {
  const delta = fc.double({ min: -40, max: 100, noNaN: true });
  const freedom = fc.integer({ min: 1, max: 999 });
  it('mirrors: P(T <= t; delta) is 1 less P(T <= -t; -delta)', () => {
    fc.assert(
      fc.property(freedom, delta, fc.double({ min: -3, max: 3, noNaN: true }), (n, d, z) => {
        const t = d + z * (1 + Math.abs(d) / Math.sqrt(2 * n));
        expect(noncentralT(t, n, d) + noncentralT(-t, n, -d)).toBeCloseTo(1, 12);
      }),
      { numRuns: 200 },
    );
  });
  it('its quantile is found again by its share, from one degree of freedom on', () => {
    const p = fc.constantFrom(0.5, 0.9, 0.95, 0.99, 0.999);
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.double({ min: 0, max: 8, noNaN: true }),
        p,
        (n, d, share) => {
          expect(noncentralT(noncentralTQuantile(share, n, d), n, d)).toBeCloseTo(share, 12);
        },
      ),
      { numRuns: 60 },
    );
  });
});
