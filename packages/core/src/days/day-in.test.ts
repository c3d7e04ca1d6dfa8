import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayIn, daysAfter } from './index.ts';

/** Zones with and without summer time, beyond the date line, off by part of an hour, and one that skipped a whole day. */
const ZONES = [
  'UTC',
  'Europe/Berlin',
  'America/Denver',
  'America/St_Johns',
  'Asia/Kathmandu',
  'Australia/Lord_Howe',
  'Pacific/Kiritimati',
  'Pacific/Apia',
  'America/Santiago',
  'Africa/Casablanca',
];
const zone = fc.constantFrom(...ZONES);
const instant = fc.integer({ min: Date.UTC(2005, 0, 1), max: Date.UTC(2035, 0, 1) });

describe('a day in a zone', () => {
  it.each([
    ['2026-06-01T00:30:00Z', 'UTC', '2026-06-01'],
    ['2026-06-01T00:30:00Z', 'America/Denver', '2026-05-31'],
    ['2026-06-01T10:30:00Z', 'Pacific/Kiritimati', '2026-06-02'],
    // The hours before and after the clocks of Berlin go back, 2026-10-25 at 01:00 UTC.
    ['2026-10-24T21:59:59Z', 'Europe/Berlin', '2026-10-24'],
    ['2026-10-24T22:00:00Z', 'Europe/Berlin', '2026-10-25'],
    ['2026-10-25T22:59:59Z', 'Europe/Berlin', '2026-10-25'],
    ['2026-10-25T23:00:00Z', 'Europe/Berlin', '2026-10-26'],
    // Samoa had no 30 December 2011 (common knowledge of the zone data).
    ['2011-12-30T09:59:59Z', 'Pacific/Apia', '2011-12-29'],
    ['2011-12-30T10:00:00Z', 'Pacific/Apia', '2011-12-31'],
  ])('%s in %s is %s', (at, timeZone, day) => {
    expect(dayIn(timeZone, at)).toBe(day);
    expect(dayIn(timeZone, Date.parse(at))).toBe(day);
    expect(dayIn(timeZone, new Date(at))).toBe(day);
  });
  it('never goes back as time goes on, and is at most a day from that of UTC', () => {
    fc.assert(
      fc.property(zone, instant, fc.integer({ min: 0, max: 3 * 86_400_000 }), (timeZone, at, more) => {
        expect(dayIn(timeZone, at + more) >= dayIn(timeZone, at)).toBe(true);
        const utc = dayIn('UTC', at);
        expect([daysAfter(utc, -1), utc, daysAfter(utc, 1)]).toContain(dayIn(timeZone, at));
      }),
    );
  });
  it('changes within 26 hours, whatever the clocks do', () => {
    fc.assert(
      fc.property(zone, instant, (timeZone, at) => {
        expect(dayIn(timeZone, at + 26 * 3_600_000)).not.toBe(dayIn(timeZone, at));
      }),
    );
  });
  it('days are counted across months, leap days and years', () => {
    expect([daysAfter('2028-02-28', 1), daysAfter('2028-02-28', 2)]).toEqual(['2028-02-29', '2028-03-01']);
    expect(daysAfter('2026-01-01', -1)).toBe('2025-12-31');
    expect(() => dayIn('Nowhere/Land', 0)).toThrow(RangeError);
    expect(() => dayIn('UTC', 'soon')).toThrow(RangeError);
  });
});
