import { shallowRef } from 'vue';

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

const STYLES = {
  /** 14:05 */
  time: { hour: '2-digit', minute: '2-digit' },
  /** 3 Jun, 14:05 */
  short: { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
  /** 3 Jun 2026, 14:05 */
  full: { dateStyle: 'medium', timeStyle: 'short' },
  /** Wed 3 Jun, 14:05 */
  planned: { weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;

/** The zone in which times are said; undefined for that of the device. */
const zone = shallowRef<string | undefined>(undefined);
export const zoneOfTimes = (): string | undefined => zone.value;
/** From now on times are said in this zone: that of the class that is open. */
export const sayTimesIn = (timeZone: string | undefined): void => void (zone.value = timeZone);

/** Making one takes longer than using it a hundred times. */
const formats = new Map<string, Intl.DateTimeFormat>();

/** An instant (ISO 8601) in words: by the person's locale, in the zone of the class. */
export function momentWords(instant: string, style: keyof typeof STYLES): string {
  const key = `${style} ${zone.value ?? ''}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.DateTimeFormat(undefined, { ...STYLES[style], timeZone: zone.value });
    formats.set(key, format);
  }
  return format.format(new Date(instant));
}
export const timeOfDay = (instant: string): string => momentWords(instant, 'time');

/** The day of an instant in a class's zone, to be read: 3 Jun 2026, or 3 Jun where the year is clear. */
export const dayWords = (instant: string, timeZone: string, year: 'with' | 'without' = 'with'): string =>
  new Date(instant).toLocaleDateString('en-GB', {
    timeZone,
    day: 'numeric',
    month: 'short',
    ...(year === 'with' ? { year: 'numeric' } : {}),
  });
