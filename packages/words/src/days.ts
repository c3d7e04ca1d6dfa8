/** A day in words, by a locale; by that of the device where none is named. Example: `2026-03-04` is `4 Mar 2026` in en-GB. */
export const dayWords = (day: string, locale?: string): string =>
  new Date(`${day}T00:00:00`).toLocaleDateString(locale, { day: 'numeric', month: 'short', year: 'numeric' });
