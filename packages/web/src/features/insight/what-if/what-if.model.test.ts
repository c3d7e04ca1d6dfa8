import type { WhatIfCounts } from '@clear-mark/contract';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { movableLimits, settingWords, typedNumber, whatIfWords } from './what-if.model.ts';

const NONE = { label: 'A', passMark: null, limit: null, policy: null };
const counts = (more: Partial<WhatIfCounts>): WhatIfCounts => ({
  attempts: 10,
  changed: 0,
  newlyFailed: 0,
  newlyPassed: 0,
  skills: [],
  standings: [],
  changes: [],
  ...more,
});

describe('what if', () => {
  it('offers the limits that can be moved, with their ends as they are', () => {
    const limits = movableLimits(LC_WEDGE_LOCATOR);
    const loss = limits.find((l) => l.unit === 'dB')!;
    expect(loss).toMatchObject({ min: null, max: null });
    const length = limits.find((l) => l.unit === 'mm' && l.max !== null)!;
    expect(length.max).toBeGreaterThan(0);
    expect(
      settingWords({ ...NONE, limit: { criterionId: loss.criterionId, min: null, max: 0.5 } }, limits),
    ).toBe(`${loss.label} to 0.5 dB`);
    expect(settingWords({ ...NONE, passMark: 90 }, limits)).toBe('pass mark 90 %');
    expect(settingWords(NONE, limits)).toBe('as it is');
  });
  it('reads a point and a comma, and nothing else', () => {
    expect([typedNumber('0,5'), typedNumber(' 0.5 '), typedNumber('')]).toEqual([0.5, 0.5, null]);
    expect([typedNumber('1,000.5'), typedNumber('abc'), typedNumber('1e3')]).toEqual([NaN, NaN, NaN]);
  });
  it('says what comes of it', () => {
    expect(whatIfWords(counts({ attempts: 0 }))).toContain('no signed attempt');
    expect(whatIfWords(counts({}))).toBe('Nothing of 10 attempts comes out otherwise.');
    expect(whatIfWords(counts({ changed: 3, newlyFailed: 2 }))).toBe(
      'Of 10 attempts 2 would have failed, 1 change otherwise; no standing changes.',
    );
  });
});
