import { describe, expect, it } from 'vitest';
import { cordCheckState } from './cord-check.ts';

const check = { lossDb: '0.18', limitDb: '0.5', dueOn: '2026-03-04' };

describe('the check of a test cord', () => {
  it.each([
    [{}, '2026-03-02', 'good'],
    [{}, '2026-03-04', 'good'],
    [{}, '2026-03-05', 'overdue'],
    [{ lossDb: '0,51' }, '2026-03-02', 'failed'],
    [{ lossDb: '0,50' }, '2026-03-02', 'good'],
    [{ lossDb: '-0.02' }, '2026-03-02', 'good'],
    // What failed is not good again by waiting.
    [{ lossDb: '0,51' }, '2026-03-09', 'failed'],
  ] as const)('%j on %s is %s', (more, day, state) =>
    expect(cordCheckState({ ...check, ...more }, day)).toBe(state),
  );
  it('refuses what is no loss', () =>
    expect(() => cordCheckState({ ...check, lossDb: 'much' }, '2026-03-02')).toThrow('value.not_a_number'));
});
