const shown = new Map<string, Intl.DateTimeFormat>();

/**
 * The calendar day of an instant in a time zone, as YYYY-MM-DD: the one way in which instants become days, so that a piece
 * signed at half past midnight stands on the same day everywhere. Input: an IANA zone, an instant as Date, ms since 1970 or
 * ISO 8601 text. Error: RangeError for a zone that nobody knows or an instant that is none. Exact by the zone data of the
 * engine. Example: 2026-06-01T00:30Z is 2026-05-31 in America/Denver.
 */
export function dayIn(timeZone: string, instant: Date | number | string): string {
  const at = typeof instant === 'string' ? Date.parse(instant) : instant;
  const parts = formatOf(timeZone).formatToParts(at);
  const part = (type: string): string => parts.find((p) => p.type === type)!.value;
  return `${part('year').padStart(4, '0')}-${part('month')}-${part('day')}`;
}

/** Made once a zone: it costs a hundred times what using it does. */
function formatOf(timeZone: string): Intl.DateTimeFormat {
  const known = shown.get(timeZone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    calendar: 'gregory',
    numberingSystem: 'latn',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  });
  shown.set(timeZone, made);
  return made;
}

/** The day so many days after another, before it where the number is under 0. Example: 2026-02-28 and 1 is 2026-03-01. */
export function daysAfter(day: string, count: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + count * 86_400_000).toISOString().slice(0, 10);
}
