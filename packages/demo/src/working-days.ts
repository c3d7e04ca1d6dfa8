import { dayIn } from '@clear-mark/core';
const DAY_MS = 86_400_000;

/** The last `count` days from Monday to Friday before `now`'s day in the zone, oldest first, as YYYY-MM-DD. */
export function workingDaysBefore(now: Date, count: number, timeZone: string): string[] {
  const days: string[] = [];
  const today = dayIn(timeZone, now);
  for (let at = Date.parse(`${today}T12:00:00Z`) - DAY_MS; days.length < count; at -= DAY_MS) {
    const weekday = new Date(at).getUTCDay();
    if (weekday !== 0 && weekday !== 6) days.unshift(new Date(at).toISOString().slice(0, 10));
  }
  return days;
}

/** The instant (ms) at which the clock in the zone shows this hour on this day. */
export function classTime(day: string, hour: number, timeZone: string): number {
  const guess = Date.parse(`${day}T${String(hour).padStart(2, '0')}:00:00Z`);
  const shown = Number(
    new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', hour12: false }).format(new Date(guess)),
  );
  return guess + (hour - shown) * 3_600_000;
}
