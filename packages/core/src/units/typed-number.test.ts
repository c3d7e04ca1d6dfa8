import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTyped, typedOrNull } from './index.ts';

describe('a number that a person types', () => {
  it.each([
    ['0,5', { kind: 'number', value: 0.5, text: '0.5' }],
    [' -12.50 ', { kind: 'number', value: -12.5, text: '-12.50' }],
    ['.5', { kind: 'number', value: 0.5, text: '0.5' }],
    ['', { kind: 'empty' }],
    ['   ', { kind: 'empty' }],
    ...['0x10', '1e3', '1.000,5', '1 000', '3 um', 'Infinity', 'NaN', '-', '.', '--1', '½', '٣'].map(
      (text) => [text, { kind: 'not_a_number', text }] as const,
    ),
  ] as const)('%j', (text, wanted) => expect(readTyped(text)).toEqual(wanted));
  it('says what is wrong, the ends of a range belong to it', () => {
    const range = { least: 0, most: 1000, whole: true };
    expect(readTyped('0', range)).toMatchObject({ kind: 'number' });
    expect(readTyped('1000', range)).toMatchObject({ kind: 'number' });
    expect(readTyped('1001', range)).toEqual({ kind: 'out_of_range', text: '1001', least: 0, most: 1000 });
    expect(readTyped('-1', { least: 0 })).toEqual({ kind: 'out_of_range', text: '-1', least: 0, most: null });
    expect(readTyped('2,5', range)).toEqual({ kind: 'not_whole', text: '2,5' });
    expect(readTyped('2,0', range)).toMatchObject({ kind: 'number', value: 2 });
    expect([typedOrNull(''), typedOrNull('x'), typedOrNull('7', { most: 6 }), typedOrNull('7')]).toEqual([
      null,
      null,
      null,
      7,
    ]);
  });
  it('never throws, and gives back what can be typed again', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const typed = readTyped(text);
        if (typed.kind === 'number') expect(readTyped(typed.text)).toEqual(typed);
      }),
    );
    const decimal = fc.tuple(fc.integer({ min: -99_999, max: 99_999 }), fc.constantFrom(1, 10, 1000));
    fc.assert(
      fc.property(decimal, fc.constantFrom('.', ','), ([digits, per], sign) => {
        const value = digits / per;
        expect(typedOrNull(String(value).replace('.', sign))).toBe(value);
      }),
    );
  });
});
