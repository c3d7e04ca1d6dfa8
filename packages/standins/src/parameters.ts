import { DeviceError } from './program-message.ts';

/** What a number can be set to, in its base unit, and the suffixes that it takes with their factors. */
export interface NumberRange {
  readonly least: number;
  readonly most: number;
  readonly byDefault: number;
  readonly suffixes?: Readonly<Record<string, number>>;
}

/** Suffixes of a length (IEEE 488.2, 7.7.3): metre with its multipliers; `MM` is a thousandth. */
export const LENGTHS = { M: 1, MM: 1e-3, UM: 1e-6, NM: 1e-9, PM: 1e-12 } as const;
/** Suffixes of a time: second with its multipliers. */
export const TIMES = { S: 1, MS: 1e-3, US: 1e-6, NS: 1e-9 } as const;
/** Suffixes of a level that is set in dBm. */
export const LEVELS = { DBM: 1 } as const;

const NUMBER = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:\s*E\s*[+-]?\d+)?)\s*([A-Z/]*)$/i;

/**
 * Decimal numeric program data with its suffix, or one of MINimum, MAXimum, DEFault (SCPI 1999, 7.2). Errors: -104 where it is
 * no number, -131 for a suffix of another unit, -138 where none is taken, -222 out of range.
 */
export function numberFrom(text: string, range: NumberRange): number {
  const named = limitFrom(text, range);
  if (named !== null) return named;
  const match = NUMBER.exec(text);
  if (!match) throw new DeviceError('-104');
  const [, digits = '', suffix = ''] = match;
  let value = Number(digits.replace(/\s/g, ''));
  if (suffix !== '') {
    if (!range.suffixes) throw new DeviceError('-138');
    const factor = range.suffixes[suffix.toUpperCase()];
    if (factor === undefined) throw new DeviceError('-131');
    value *= factor;
  }
  // A limit in another unit is the limit: .85 UM is 850 NM whatever the binary digits say.
  const slack = 1e-9 * Math.max(Math.abs(range.least), Math.abs(range.most));
  if (!(value >= range.least - slack && value <= range.most + slack)) throw new DeviceError('-222');
  return value;
}

/** The value behind MINimum, MAXimum or DEFault; null for any other text. */
export function limitFrom(text: string, { least, most, byDefault }: NumberRange): number | null {
  switch (text.toUpperCase()) {
    case 'MIN':
    case 'MINIMUM':
      return least;
    case 'MAX':
    case 'MAXIMUM':
      return most;
    case 'DEF':
    case 'DEFAULT':
      return byDefault;
    default:
      return null;
  }
}

/** ON, OFF or a number that is rounded: 0 is off (SCPI 1999, 7.3). Error: -104 for text, -224 for another word. */
export function flagFrom(text: string): boolean {
  if (/^ON$/i.test(text)) return true;
  if (/^OFF$/i.test(text)) return false;
  if (/^[A-Z]/i.test(text)) throw new DeviceError('-224');
  return Math.round(numberFrom(text, { least: -1e9, most: 1e9, byDefault: 0 })) !== 0;
}

/** One of some words. Errors: -104 for a number or a quoted text, -224 for another word. */
export function wordFrom<T extends string>(text: string, words: readonly T[]): T {
  if (!/^[A-Z]/i.test(text)) throw new DeviceError('-104');
  const found = words.find((word) => word === text.toUpperCase());
  if (found === undefined) throw new DeviceError('-224');
  return found;
}
