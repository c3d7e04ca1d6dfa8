import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { home } from './home.ts';

type Session = Parameters<typeof home>[0];
const classOf = (id: string, startsOn: string, endsOn: string, timeZone: string) => ({
  id,
  startsOn,
  endsOn,
  timeZone,
});
const session = (classes: readonly object[], teaches = true) => ({ teaches, classes }) as unknown as Session;
const at = (classId: string) => ({ name: 'today', params: { classId } });

describe('where work begins', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  const over = classOf('over', '2026-05-01', '2026-05-31', 'America/Denver');
  const next = classOf('next', '2026-06-01', '2026-06-30', 'America/Denver');
  it.each([
    // Half past midnight in UTC is still the evening before in Denver.
    ['2026-06-01T00:30:00Z', 'over'],
    ['2026-06-01T05:59:59Z', 'over'],
    ['2026-06-01T06:00:00Z', 'next'],
    ['2026-07-01T05:59:59Z', 'next'],
  ])('at %s the class that runs on its own day: %s', (now, id) => {
    vi.setSystemTime(new Date(now));
    expect(home(session([over, next]))).toEqual(at(id));
  });
  it('a class that has begun already where it is, while the day is young here', () => {
    vi.setSystemTime(new Date('2026-05-31T11:00:00Z'));
    const ahead = classOf('ahead', '2026-06-01', '2026-06-30', 'Pacific/Kiritimati');
    expect(home(session([ahead]))).toEqual(at('ahead'));
    expect(home(session([over, ahead]))).toEqual(at('over'));
  });
  it('the first of several where none runs, the list where there is none, the own record of a trainee', () => {
    vi.setSystemTime(new Date('2027-01-01T00:00:00Z'));
    expect(home(session([over, next]))).toEqual(at('over'));
    expect(home(session([]))).toEqual({ name: 'classes' });
    expect(home(session([over], false))).toEqual({ name: 'me' });
  });
});
