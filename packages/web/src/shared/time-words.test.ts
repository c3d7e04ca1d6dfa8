import { afterEach, describe, expect, it } from 'vitest';
import { agoWords, clockText, momentWords, sayTimesIn, timeOfDay } from './time-words.ts';
import { instantAt, wallTime } from './wall-time.ts';

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

describe('instants in the zone of the class', () => {
  afterEach(() => sayTimesIn(undefined));

  it('the same instant is another time, and another day, elsewhere', () => {
    sayTimesIn('Pacific/Auckland');
    expect(momentWords('2026-03-02T12:05:00Z', 'short')).toMatch(/3.*01:05|01:05.*3/);
    expect(timeOfDay('2026-03-02T12:05:00Z')).toMatch(/01:05/);
    sayTimesIn('America/Denver');
    expect(timeOfDay('2026-03-02T12:05:00Z')).toMatch(/05:05/);
    expect(momentWords('2026-03-02T12:05:00Z', 'full')).toContain('2026');
  });

  it('the clock on the wall of the class and its instant, through the change of the clocks', () => {
    sayTimesIn('Europe/Lisbon');
    expect(wallTime('2026-03-28T09:30:00Z')).toBe('2026-03-28T09:30');
    expect(wallTime('2026-03-29T09:30:00Z')).toBe('2026-03-29T10:30');
    for (const wall of ['2026-03-28T09:00', '2026-03-29T09:00', '2026-10-25T09:00', '2026-07-01T00:00'])
      expect(wallTime(instantAt(wall))).toBe(wall);
    expect(instantAt('2026-07-01T09:00')).toBe('2026-07-01T08:00:00.000Z');
    // From 00:59 the clock goes to 02:00.
    expect(instantAt('2026-03-29T01:30')).toBe('2026-03-29T01:30:00.000Z');
  });
});
