import { launchAdvice, linkChanges, readCoefficient, rowSpread } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { coefficientProblem, launchWords, linkChangeWords, rowSpreadWords } from './loss-tests.ts';

describe('words of a loss test', () => {
  it.each([
    ['0.35', null],
    ['1 dB/km = 0.1 dB per 600 ft', '“0.1 dB per 600 ft” is 0.55 dB/km, not 1: one of the two is a slip.'],
    ['50', '“50” is 50 dB/km: a fiber loses 0.1 to 20 dB/km.'],
    ['0', '“0” is 0 dB/km: a fiber loses 0.1 to 20 dB/km.'],
    ['some', '“some” is no coefficient. Write it like 0.35, 1 dB per 1000 ft or 0.1 dB per 100 m.'],
    ['', 'Give a coefficient: an empty field is none.'],
  ])('of the coefficient %j', (text, words) => expect(coefficientProblem(readCoefficient(text))).toBe(words));

  it('of a launch: the mandrel, and what defeats it', () => {
    const cord = { coreUm: 50, jacketMm: 3, bendInsensitive: true, tenGigabit: true };
    const [wrap, first, second] = launchWords(launchAdvice(cord));
    expect(wrap).toMatch(/^Five turns, side by side, on a mandrel of 22 mm/);
    expect(first).toMatch(/^A bend-insensitive cord defeats the mandrel/);
    expect(second).toMatch(/encircled-flux/);
  });

  it('of a row: its range, and the fiber that stands apart', () => {
    const losses = [0.4, 0.41, 0.39, 0.4, 1.2, 0.4];
    const [spread] = rowSpread(
      losses.map((lossDb, i) => ({ part: `f${i + 1}.1310`, lossDb })),
      0.1,
    );
    expect(spread === undefined ? '' : rowSpreadWords(spread)).toMatch(
      /^1310 nm: loss range 0.81 dB, from 0.39 \(fiber 3\) to 1.20 \(fiber 5\), median 0.40. Look at fiber 5/,
    );
  });

  it('of a change', () => {
    const of = (before: number | null, after: number | null): string => {
      const at = (lossDb: number | null) => [{ part: '1310', lossDb }];
      return linkChangeWords(linkChanges(at(before), at(after), 0.15, 0.15)[0]!);
    };
    expect(of(0.92, 0.41)).toBe(
      'better by 0.51 dB, more than the 0.21 dB that two readings of one link differ by',
    );
    expect(of(0.4, 0.45)).toBe('no change: 0.05 dB apart, two readings of one link differ by up to 0.21');
    expect(of(null, 0.4)).toBe('light found');
  });
});
