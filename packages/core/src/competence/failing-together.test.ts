import { describe, expect, it } from 'vitest';
import { failingTogether } from './index.ts';

const pair = (together: number, firstFailed: number, secondFailed: number, of = 100) => ({
  first: 'a',
  second: `b${together}`,
  together,
  firstFailed,
  secondFailed,
  of,
});

describe('what fails together', () => {
  it('keeps what chance does not explain, the least likely first', () => {
    const found = failingTogether([pair(2, 10, 12), pair(8, 10, 12), pair(5, 10, 12)]);
    expect(found.map((f) => f.together)).toEqual([8, 5]);
    expect(found[0]!.expected).toBeCloseTo(1.2, 12);
    expect(found[0]!.p).toBeLessThan(found[1]!.p);
  });
  it('leaves out what avoids each other, and says nothing of little', () => {
    expect(failingTogether([pair(0, 50, 50)])).toEqual([]);
    expect(failingTogether([pair(1, 1, 1, 3)])).toEqual([]);
    expect(failingTogether([])).toEqual([]);
  });
});
