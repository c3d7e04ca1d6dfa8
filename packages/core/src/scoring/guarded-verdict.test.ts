import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { guardedVerdict } from './guarded-verdict.ts';

describe('the verdict of a reading beside its limits', () => {
  it.each([
    [0.89, 'pass'],
    [0.9, 'pass'],
    [0.95, 'marginal_pass'],
    [1, 'marginal_pass'],
    [1.05, 'marginal_fail'],
    [1.2, 'fail'],
  ])('%f against 1 with U 0.1 is a %s', (reading, verdict) => {
    expect(guardedVerdict(reading, 1, 0.1)).toBe(verdict);
  });
  it.each([
    [-0.89, { lower: -1 }, 'pass'],
    [-0.95, { lower: -1 }, 'marginal_pass'],
    [-1.05, { lower: -1 }, 'marginal_fail'],
    [-1.2, { lower: -1 }, 'fail'],
    [-3.3, { upper: -3.2 }, 'pass'],
    [-3.1, { upper: -3.2 }, 'marginal_fail'],
    [-3.0, { upper: -3.2 }, 'fail'],
    [0, { lower: -0.5, upper: 0.3 }, 'pass'],
    [0.25, { lower: -0.5, upper: 0.3 }, 'marginal_pass'],
    [-0.55, { lower: -0.5, upper: 0.3 }, 'marginal_fail'],
    // Narrower than U on both sides: the worse of the two ends.
    [0, { lower: -0.05, upper: 0.05 }, 'marginal_pass'],
    [-2, { lower: -0.5, upper: 0.3 }, 'fail'],
  ] as const)('%f against %o with U 0.1 is a %s', (reading, limits, verdict) => {
    expect(guardedVerdict(reading, limits, 0.1)).toBe(verdict);
  });
  it('a lower limit is the mirror of an upper one, whatever the signs', () => {
    const value = fc.double({ min: -50, max: 50, noNaN: true });
    fc.assert(
      fc.property(value, value, fc.double({ min: 0, max: 5, noNaN: true }), (reading, limit, u) => {
        expect(guardedVerdict(reading, { lower: limit }, u)).toBe(guardedVerdict(-reading, -limit, u));
      }),
    );
  });
  it('no limits, crossed ones and numbers without decimals are refused', () => {
    for (const [reading, limits, u] of [
      [1, {}, 0.1],
      [1, { lower: 2, upper: 1 }, 0.1],
      [1e16, 1, 0.1],
      [1, 1, -0.1],
      [NaN, 1, 0.1],
    ] as const) {
      expect(() => guardedVerdict(reading, limits, u)).toThrow('metrology.bad_uncertainty');
    }
  });
});
