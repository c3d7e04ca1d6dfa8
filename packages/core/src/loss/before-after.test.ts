import { describe, expect, it } from 'vitest';
import { linkChanges } from './before-after.ts';

const at = (part: string, lossDb: number | null) => ({ part, lossDb });
const one = (before: number | null, after: number | null, u = 0.15) =>
  linkChanges([at('1310', before)], [at('1310', after)], u, u)[0]!;

describe('a link before and after', () => {
  it('better or worse by more than two readings of the same link differ by', () => {
    const found = one(0.92, 0.41);
    expect(found).toMatchObject({ change: 'better', beforeDb: 0.92, afterDb: 0.41 });
    expect(found.agreement!.differenceDb).toBeCloseTo(-0.51, 12);
    expect(found.agreement!.mostDb).toBeCloseTo(0.15 * Math.SQRT2, 12);
    expect(one(0.41, 0.92).change).toBe('worse');
  });
  it('the same within it, equal to it as well', () => {
    expect(one(0.4, 0.5).change).toBe('same');
    expect(one(0.4, 0.4 + 0.15 * Math.SQRT2).change).toBe('same');
    expect(one(0.4, 0.4 + 0.15 * Math.SQRT2 + 0.001).change).toBe('worse');
  });
  it('light that came or went is no number', () => {
    expect(one(null, 0.4)).toMatchObject({ change: 'light_found', agreement: null });
    expect(one(0.4, null).change).toBe('light_lost');
    expect(one(null, null).change).toBe('dark');
  });
  it('compares the places that both have', () => {
    const found = linkChanges([at('1310', 0.4), at('1550', 0.4)], [at('1550', 0.4), at('850', 1)], 0.1, 0.1);
    expect(found.map((c) => c.part)).toEqual(['1550']);
  });
});
