import { readTyped } from '../units/index.ts';

const METRES_PER_FOOT = 0.3048;
/** Coefficients of a fiber in a building or a field, dB/km; what lies beyond is a slip of the unit. House. */
export const COEFFICIENT_RANGE = { least: 0.1, most: 20 } as const;

/** Two forms of one coefficient agree when they differ by no more than this share: people round to one digit. House. */
const FORMS_AGREE = 0.1;

const METRES: Readonly<Record<string, number>> = {
  km: 1000,
  m: 1,
  ft: METRES_PER_FOOT,
  kft: 1000 * METRES_PER_FOOT,
};

/** A coefficient in one of the forms in which people write it. */
export interface CoefficientForm {
  /** As it was typed. */
  readonly text: string;
  readonly dbPerKm: number;
}

/** What a person typed for a fiber's coefficient, or what is wrong with it. */
export type TypedCoefficient =
  | { readonly kind: 'coefficient'; readonly dbPerKm: number; readonly forms: readonly CoefficientForm[] }
  | { readonly kind: 'empty' }
  | { readonly kind: 'not_a_coefficient'; readonly text: string }
  | { readonly kind: 'out_of_range'; readonly text: string; readonly dbPerKm: number }
  /** Two forms that should say the same do not. */
  | { readonly kind: 'forms_disagree'; readonly first: CoefficientForm; readonly second: CoefficientForm };

const FORM = /^([+-]?[\d.,]+)(?:\s*db)?(?:\s*(?:\/|per)\s*([\d.,]+)?\s*(km|kft|m|ft))?$/i;

/**
 * The one reader of a fiber's coefficient: a plain number is dB/km; `dB/km`, `dB per 1000 ft`, `dB per ft`, `dB per 100 m`
 * and the like are converted; several forms of the same coefficient, set apart by `;`, `=` or `or`, have to agree within
 * 10 %, and the first of them counts. 0.1 to 20 dB/km. Never throws. Examples: `0.1 dB per 600 ft` is 0.547 dB/km;
 * `1 dB/km = 0.1 dB per 600 ft` disagrees.
 */
export function readCoefficient(text: string): TypedCoefficient {
  const shown = text.trim().slice(0, 80);
  if (shown === '') return { kind: 'empty' };
  const forms: CoefficientForm[] = [];
  for (const part of shown.split(/;|=|\bor\b/i).map((s) => s.trim())) {
    const dbPerKm = formOf(part);
    if (dbPerKm === null) return { kind: 'not_a_coefficient', text: part === '' ? shown : part };
    if (dbPerKm < COEFFICIENT_RANGE.least || dbPerKm > COEFFICIENT_RANGE.most) {
      return { kind: 'out_of_range', text: part, dbPerKm };
    }
    forms.push({ text: part, dbPerKm });
  }
  const first = forms[0]!;
  const second = forms.find((f) => Math.abs(f.dbPerKm - first.dbPerKm) > FORMS_AGREE * first.dbPerKm);
  if (second) return { kind: 'forms_disagree', first, second };
  return { kind: 'coefficient', dbPerKm: first.dbPerKm, forms };
}

/** One form in dB/km, null where it is none. A form without a length is dB/km. */
function formOf(text: string): number | null {
  const [, loss, length = '', unit = ''] = FORM.exec(text) ?? [];
  const db = readTyped(loss ?? '', { least: 0 });
  if (db.kind !== 'number') return null;
  if (unit === '') return db.value;
  const count = length === '' ? 1 : readTyped(length, { least: 0 });
  const lengths = count === 1 ? 1 : count.kind === 'number' ? count.value : 0;
  return lengths > 0 ? (db.value / (lengths * METRES[unit.toLowerCase()]!)) * 1000 : null;
}
