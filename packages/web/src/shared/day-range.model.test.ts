import { describe, expect, it } from 'vitest';
import { dayOf, firstDayOfWeek, rangesOf, weekBegan } from './day-range.model.ts';

describe('ranges of days', () => {
  it('a week begins on the day that the locale says, Monday where nobody says', () => {
    // 2026-03-11 was a Wednesday.
    expect(weekBegan('2026-03-11', 1)).toBe('2026-03-09');
    expect(weekBegan('2026-03-11', 7)).toBe('2026-03-08');
    expect(weekBegan('2026-03-11', 6)).toBe('2026-03-07');
    expect(weekBegan('2026-03-09', 1)).toBe('2026-03-09');
    expect(weekBegan('2026-03-08', 1)).toBe('2026-03-02');
    expect([1, 7]).toContain(firstDayOfWeek('en-US'));
    expect(firstDayOfWeek('de-DE')).toBe(1);
  });

  it('yesterday and a week may lie in the month or year before', () => {
    const ranges = rangesOf('2026-01-01', null, 1);
    expect(ranges.map((r) => [r.label, r.from, r.to])).toEqual([
      ['Today', '2026-01-01', '2026-01-01'],
      ['Yesterday', '2025-12-31', '2025-12-31'],
      ['This week', '2025-12-29', '2026-01-01'],
    ]);
  });

  it('the course is offered where there is one', () => {
    const course = { from: '2026-03-02', to: '2026-03-20' };
    expect(rangesOf('2026-03-11', course, 1).at(-1)).toEqual({ label: 'The course', ...course });
  });

  it('a day is that day on this device', () => {
    const day = dayOf('2026-03-29');
    expect([day.getFullYear(), day.getMonth(), day.getDate(), day.getHours()]).toEqual([2026, 2, 29, 0]);
  });
});
