/** Seconds as m:ss, with hours before them where there are any. */
export function clockText(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  const two = (n: number): string => String(n).padStart(2, '0');
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor(whole / 60);
  // An hour and more is what a forgotten timer shows.
  return hours > 0 ? `${hours}:${two(minutes % 60)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`;
}

/** How long ago, in the fewest words. `now` and `since` in ms. */
export function agoWords(since: number, now: number): string {
  const minutes = Math.max(0, Math.floor((now - since) / 60_000));
  if (minutes < 1) return 'just now';
  if (minutes < 90) return `${minutes} min`;
  return minutes < 48 * 60 ? `${Math.round(minutes / 60)} h` : `${Math.round(minutes / 1440)} days`;
}

/** An instant as the time of day, by the person's locale. */
export const timeOfDay = (iso: string): string =>
  new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });

/** The day of an instant in a class's zone, to be read: 3 Jun 2026, or 3 Jun where the year is clear. */
export const dayWords = (instant: string, timeZone: string, year: 'with' | 'without' = 'with'): string =>
  new Date(instant).toLocaleDateString('en-GB', {
    timeZone,
    day: 'numeric',
    month: 'short',
    ...(year === 'with' ? { year: 'numeric' } : {}),
  });
