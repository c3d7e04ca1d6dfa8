import { describe, expect, it } from 'vitest';
import { agoWords, clockText } from './time-words.ts';

describe('times in words', () => {
  it('seconds as a clock', () => {
    expect(clockText(75.9)).toBe('1:15');
    expect(clockText(-4)).toBe('0:00');
    expect(clockText(4512)).toBe('1:15:12');
  });
  it('says how long ago in the fewest words', () => {
    const now = Date.parse('2026-03-02T12:00:00Z');
    const ago = (minutes: number): string => agoWords(now - minutes * 60_000, now);
    expect([ago(0), ago(0.9), ago(5), ago(89.9), ago(120), ago(60 * 72), ago(-5)]).toEqual([
      'just now',
      'just now',
      '5 min',
      '89 min',
      '2 h',
      '3 days',
      'just now',
    ]);
  });
});
