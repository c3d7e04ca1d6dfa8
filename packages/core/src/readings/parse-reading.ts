import { DomainError } from '../domain-error.ts';
import { parseDecimal, type Unit, UNITS, UNIT_CODES } from '../units/index.ts';

/** A typed or pasted reading: the number as given, and the unit written behind it or the one in use. */
export interface ReadingText {
  readonly text: string;
  readonly unit: Unit;
}

const WRITTEN = /^([+\-−–]?\s*[\d.,]+)\s*([^\d\s.,+\-−].*)?$/u;

const SPELLED: ReadonlyMap<string, Unit> = new Map<string, Unit>([
  ...UNIT_CODES.filter((u) => u !== '1').map((u): [string, Unit] => [u.toLowerCase(), u]),
  ['µm', 'um'],
  ['μm', 'um'],
  ['µw', 'uW'],
  ['μw', 'uW'],
  ['°', 'deg'],
  ['degrees', 'deg'],
  ['"', 'in'],
  ["'", 'ft'],
]);

/**
 * Reads a cell such as `0,31 dB`, `-12.4dBm`, `0.8°` or `0.31`. The minus of typesetters is a minus; the number
 * stays as it was written otherwise. Unit: the written one, else `unit`. A unit of another quantity than `unit`
 * measures is refused, but for losses, which may also be read as a level or a power.
 * Errors: `value.not_a_number`, `value.wrong_unit`. Example: `0,31 dB` is the text `0,31` in dB.
 */
export function parseReading(cell: string, unit: Unit): ReadingText {
  const match = WRITTEN.exec(cell.trim());
  if (!match) throw new DomainError('value.not_a_number', { text: cell.trim().slice(0, 40) });
  const text = match[1]!.replace(/^[−–]/, '-').replace(/\s/g, '');
  parseDecimal(text);
  const written = match[2]?.trim();
  if (written === undefined) return { text, unit };
  const found = SPELLED.get(written.toLowerCase());
  if (found === undefined || !fits(found, unit)) {
    throw new DomainError('value.wrong_unit', { given: written.slice(0, 12), wanted: unit });
  }
  return { text, unit: found };
}

const OPTICAL: readonly string[] = ['loss', 'level', 'power'];

function fits(given: Unit, wanted: Unit): boolean {
  const a = UNITS[given].quantity;
  const b = UNITS[wanted].quantity;
  return a === b || (OPTICAL.includes(a) && OPTICAL.includes(b));
}
