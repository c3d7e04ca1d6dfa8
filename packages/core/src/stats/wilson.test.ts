import { describe, expect, it } from 'vitest';
import { wilsonRate } from './wilson.ts';

describe('Wilson score interval', () => {
  // Newcombe RG (1998), Statistics in Medicine 17:857-872, Table I, method 3.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%i of %i is %f to %f', (k, n, low, high) => {
    const rate = wilsonRate(k, n);
    if (rate.kind !== 'rate') throw new Error('no rate');
    expect(rate.low).toBeCloseTo(low, 4);
    expect(rate.high).toBeCloseTo(high, 4);
  });

  it('mirrors failures and passes', () => {
    const a = wilsonRate(3, 11);
    const b = wilsonRate(8, 11);
    if (a.kind !== 'rate' || b.kind !== 'rate') throw new Error('no rate');
    expect(a.low).toBeCloseTo(1 - b.high, 14);
    expect(a.high).toBeCloseTo(1 - b.low, 14);
  });

  it('ends exactly at 0 and 1', () => {
    expect(wilsonRate(0, 5)).toMatchObject({ low: 0 });
    expect(wilsonRate(5, 5)).toMatchObject({ high: 1 });
  });

  it('gives no rate for none, and refuses the impossible', () => {
    expect(wilsonRate(0, 0)).toEqual({ kind: 'none' });
    expect(() => wilsonRate(3, 2)).toThrow('stats.bad_count');
    expect(() => wilsonRate(-1, 2)).toThrow('stats.bad_count');
    expect(() => wilsonRate(0.5, 2)).toThrow('stats.bad_count');
  });
});
