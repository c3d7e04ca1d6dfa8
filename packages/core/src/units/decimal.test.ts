import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DomainError } from '../domain-error.ts';
import {
  addDecimal,
  compareDecimal,
  decimalToNumber,
  decimalToText,
  multiplyDecimal,
  parseDecimal,
  subtractDecimal,
} from './decimal.ts';
import { secondsBetween, secondsFromText } from './duration.ts';
import { sameQuantity, toBaseUnit } from './units.ts';

const codeOf = (act: () => unknown): string => {
  try {
    act();
  } catch (error) {
    if (error instanceof DomainError) return error.code;
    throw error;
  }
  return 'nothing thrown';
};

describe('typed decimals', () => {
  it('takes point and comma alike and keeps trailing zeros', () => {
    expect(parseDecimal('10,50')).toEqual({ digits: 1050n, scale: 2 });
    expect(decimalToText(parseDecimal('10.50'))).toBe('10.50');
    expect(decimalToText(parseDecimal('-.5'))).toBe('-0.5');
    expect(decimalToText(parseDecimal('7.'))).toBe('7');
  });

  it.each(['', ' ', '.', '-', 'abc', '1.000,5', '1,000.5', '1 000', '1e3', '0x10', '--1', '5 mm', 'NaN'])(
    'refuses %j',
    (text) => {
      expect(codeOf(() => parseDecimal(text))).toBe('value.not_a_number');
    },
  );

  it('compares without binary dust: 0.1 + 0.2 is 0.3', () => {
    const sum = addDecimal(parseDecimal('0.1'), parseDecimal('0.2'));
    expect(compareDecimal(sum, parseDecimal('0.3'))).toBe(0);
    expect(0.1 + 0.2 === 0.3).toBe(false);
  });

  it('agrees with whole-number arithmetic', () => {
    const part = fc.integer({ min: -999_999, max: 999_999 });
    fc.assert(
      fc.property(part, part, (a, b) => {
        const x = { digits: BigInt(a), scale: 3 };
        const y = { digits: BigInt(b), scale: 3 };
        expect(decimalToNumber(subtractDecimal(x, y))).toBeCloseTo((a - b) / 1000, 9);
        expect(compareDecimal(x, y)).toBe(Math.sign(a - b) as -1 | 0 | 1);
        expect(compareDecimal(multiplyDecimal(x, y), { digits: BigInt(a) * BigInt(b), scale: 6 })).toBe(0);
        expect(compareDecimal(parseDecimal(decimalToText(x)), x)).toBe(0);
      }),
    );
  });
});

describe('units', () => {
  // International yard and pound agreement, 1959: 1 in = 25.4 mm exactly.
  it('converts lengths exactly', () => {
    expect(decimalToText(toBaseUnit('0.5', 'in'))).toBe('12.70');
    expect(decimalToText(toBaseUnit('1', 'ft'))).toBe('304.8');
    expect(decimalToText(toBaseUnit('10500', 'um'))).toBe('10.500');
    expect(decimalToText(toBaseUnit('2,5', 'min'))).toBe('150.0');
  });

  it('refuses a negative length and takes a negative level', () => {
    expect(codeOf(() => toBaseUnit('-1', 'mm'))).toBe('value.negative');
    expect(decimalToText(toBaseUnit('-5.12', 'dBm'))).toBe('-5.12');
  });

  it('knows which units can stand for each other', () => {
    expect(sameQuantity('in', 'mm')).toBe(true);
    expect(sameQuantity('deg', 'mm')).toBe(false);
  });
});

describe('durations', () => {
  it('reads seconds and minutes', () => {
    expect(secondsFromText('1:30')).toBe('90');
    expect(secondsFromText('0:05,5')).toBe('5.5');
    expect(secondsFromText('42,5')).toBe('42.5');
  });

  it('refuses what cannot be a time', () => {
    expect(codeOf(() => secondsFromText('1:75'))).toBe('time.seconds_over_59');
    expect(codeOf(() => secondsFromText('-3'))).toBe('value.negative');
    expect(codeOf(() => secondsFromText('1:2:3'))).toBe('value.not_a_number');
    expect(codeOf(() => secondsBetween('2026-03-02T10:00:01Z', '2026-03-02T10:00:00Z'))).toBe(
      'time.backwards',
    );
    expect(codeOf(() => secondsBetween('yesterday', '2026-03-02T10:00:00Z'))).toBe('time.not_an_instant');
  });

  it('measures between instants', () => {
    expect(secondsBetween('2026-03-02T10:00:00Z', '2026-03-02T10:01:30.500Z')).toBe('90.5');
  });
});
