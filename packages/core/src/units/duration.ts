import { DomainError } from '../domain-error.ts';
import { parseDecimal } from './decimal.ts';

/**
 * Reads a typed duration: `90`, `1:30` or `1:30.5` (minutes and seconds), and gives seconds as decimal text.
 * Errors: `value.not_a_number`; `value.negative`; `time.seconds_over_59` for `1:75`. Exact.
 * Example: `secondsFromText('1:30')` is `90`.
 */
export function secondsFromText(text: string): string {
  const trimmed = text.trim();
  const parts = /^(\d{1,4}):(\d{1,2}(?:[.,]\d{1,3})?)$/.exec(trimmed);
  if (!parts) {
    if (parseDecimal(trimmed).digits < 0n) throw new DomainError('value.negative', { text, unit: 's' });
    return trimmed.replace(',', '.');
  }
  const [whole, fraction] = parts[2]!.replace(',', '.').split('.');
  if (Number(whole) > 59) throw new DomainError('time.seconds_over_59', { text });
  const seconds = Number(parts[1]) * 60 + Number(whole);
  return fraction === undefined ? String(seconds) : `${seconds}.${fraction}`;
}

/**
 * Seconds between two instants (ISO 8601), as decimal text to the millisecond.
 * Errors: `time.not_an_instant`; `time.backwards` when the second is before the first.
 * Example: from 10:00:00 to 10:01:30.5 is `90.5`.
 */
export function secondsBetween(startedAt: string, stoppedAt: string): string {
  const from = Date.parse(startedAt);
  const to = Date.parse(stoppedAt);
  if (Number.isNaN(from) || Number.isNaN(to)) throw new DomainError('time.not_an_instant', {});
  if (to < from) throw new DomainError('time.backwards', { seconds: (from - to) / 1000 });
  return String((to - from) / 1000);
}
