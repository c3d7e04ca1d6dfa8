import { DomainError } from '../domain-error.ts';
import { decimalToNumber, decimalToText, parseDecimal } from './decimal.ts';

export interface TypedRange {
  readonly least?: number;
  readonly most?: number;
  readonly whole?: boolean;
}

/** What a person typed into a field for one number, or what is wrong with it. */
export type Typed =
  | {
      readonly kind: 'number';
      readonly value: number;
      /** The same digits with a point, as they are sent and kept. */
      readonly text: string;
    }
  | { readonly kind: 'empty' }
  | { readonly kind: 'not_a_number'; readonly text: string }
  | { readonly kind: 'not_whole'; readonly text: string }
  | {
      readonly kind: 'out_of_range';
      readonly text: string;
      readonly least: number | null;
      readonly most: number | null;
    };

/**
 * The one reader of decimals that a person types: point or comma, an own sign, no units, exponents or separators of
 * thousands (`parseDecimal`), within a range whose ends belong to it. Never throws. Exact to the nearest double. Examples:
 * `0,5` is 0.5; nothing is `empty` and never 0; `3.5` where it has to be whole is `not_whole`.
 */
export function readTyped(text: string, { least, most, whole = false }: TypedRange = {}): Typed {
  const shown = text.trim().slice(0, 40);
  if (shown === '') return { kind: 'empty' };
  try {
    const decimal = parseDecimal(text);
    const value = decimalToNumber(decimal);
    if (whole && !Number.isInteger(value)) return { kind: 'not_whole', text: shown };
    if ((least !== undefined && value < least) || (most !== undefined && value > most)) {
      return { kind: 'out_of_range', text: shown, least: least ?? null, most: most ?? null };
    }
    return { kind: 'number', value, text: decimalToText(decimal) };
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    return { kind: 'not_a_number', text: shown };
  }
}

/** The number of a typed text, null where there is none for whatever reason. */
export function typedOrNull(text: string, range: TypedRange = {}): number | null {
  const typed = readTyped(text, range);
  return typed.kind === 'number' ? typed.value : null;
}
