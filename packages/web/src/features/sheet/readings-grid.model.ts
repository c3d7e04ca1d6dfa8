import {
  checkValue,
  decimalSlip,
  DomainError,
  type Direction,
  type EntryValue,
  type LossCriterion,
  type LossReference,
  lossSlip,
  parseReading,
  parsePart,
  type PartOutcome,
  partKey,
  partsOf,
  partValue,
  type ReadingsCriterion,
  type Unit,
} from '@clear-mark/core';
import type { ErrorCode } from '@clear-mark/contract';
import { DIRECTION_WORDS, errorWords } from '@clear-mark/words';
import { termsOf } from '../../shared/limit-words.ts';

export type GridCriterion = ReadingsCriterion | (LossCriterion & { readonly fibers: number });

export interface GridColumn {
  readonly wavelengthNm: number | null;
  readonly direction: Direction | null;
  readonly label: string;
}

export interface Grid {
  readonly fibers: readonly number[];
  readonly columns: readonly GridColumn[];
  readonly partAt: (row: number, column: number) => string | null;
  readonly placeOf: (part: string) => { readonly row: number; readonly column: number };
}

/** A criterion's readings as rows of fibers and columns of wavelengths and directions. */
export function gridOf(criterion: GridCriterion): Grid {
  const parts = partsOf(criterion);
  const fibers = [...new Set(parts.map((p) => p.fiber ?? 1))];
  const columns = parts
    .filter((p) => p.fiber === parts[0]!.fiber)
    .map(({ wavelengthNm, direction }) => ({
      wavelengthNm,
      direction,
      label: columnLabel(wavelengthNm, direction),
    }));
  const hasFibers = criterion.fibers !== undefined;
  return {
    fibers,
    columns,
    partAt: (row, column) => {
      const fiber = fibers[row];
      const at = columns[column];
      if (fiber === undefined || at === undefined) return null;
      return partKey({ ...at, fiber: hasFibers ? fiber : null });
    },
    placeOf: (key) => {
      const part = parsePart(key);
      return {
        row: fibers.indexOf(part.fiber ?? 1),
        column: columns.findIndex(
          (c) => c.wavelengthNm === part.wavelengthNm && c.direction === part.direction,
        ),
      };
    },
  };
}

function columnLabel(wavelengthNm: number | null, direction: Direction | null): string {
  return [wavelengthNm === null ? [] : `${wavelengthNm} nm`, direction ? DIRECTION_WORDS[direction] : []]
    .flat()
    .join(', ');
}

export interface ColumnFacts {
  readonly read: number;
  readonly worst: { readonly fiber: number; readonly value: number } | null;
  readonly mean: number | null;
  readonly spread: number | null;
}

/** What a column of readings comes to: how many, the worst with its fiber, the mean, the spread. */
export function columnFacts(
  column: GridColumn,
  parts: readonly PartOutcome[],
  lowIsWorse: boolean,
): ColumnFacts {
  const read = parts
    .map((part) => ({ ...parsePart(part.part), value: partValue(part) }))
    .filter((p) => p.wavelengthNm === column.wavelengthNm && p.direction === column.direction)
    .flatMap((p) => (p.value === null ? [] : [{ fiber: p.fiber ?? 1, value: p.value }]));
  if (read.length === 0) return { read: 0, worst: null, mean: null, spread: null };
  const values = read.map((r) => r.value);
  const worst = lowIsWorse ? Math.min(...values) : Math.max(...values);
  return {
    read: read.length,
    worst: read.find((r) => r.value === worst)!,
    mean: values.reduce((a, b) => a + b, 0) / values.length,
    spread: Math.max(...values) - Math.min(...values),
  };
}

export type CellReading =
  | { readonly state: 'value'; readonly value: EntryValue }
  | { readonly state: 'empty' }
  /** Far outside, and a tenth or ten times of it would be inside: to be confirmed. */
  | { readonly state: 'ask'; readonly value: EntryValue & { readonly kind: 'measure' | 'loss' } }
  | { readonly state: 'bad'; readonly code: string; readonly params: DomainError['params'] };

const DARK = /^(x|dark|no light)$/i;

/**
 * What a cell's text says: a value that the criterion takes, nothing, a likely slip of the decimal sign, or a
 * problem. `x` or `dark` is no light. A loss needs the reference of its wavelength.
 */
export function readCell(
  criterion: GridCriterion,
  part: string,
  text: string,
  unit: Unit,
  reference: LossReference | null,
): CellReading {
  const written = text.trim();
  if (written === '') return { state: 'empty' };
  try {
    if (criterion.kind === 'readings') {
      const value = { kind: 'measure', ...parseReading(written, criterion.unit) } as const;
      checkValue(criterion, part, value);
      return decimalSlip(criterion, value) === null ? { state: 'value', value } : { state: 'ask', value };
    }
    if (!reference) return { state: 'bad', code: 'entry.no_reference', params: {} };
    const value = lossValue(written, unit, reference.id);
    checkValue(criterion, part, value);
    const terms = termsOf(criterion, parsePart(part).wavelengthNm!);
    return value.noLight || lossSlip(value, reference, terms) === null
      ? { state: 'value', value }
      : { state: 'ask', value };
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    return { state: 'bad', code: error.code, params: error.params };
  }
}

function lossValue(written: string, unit: Unit, referenceId: string): EntryValue & { kind: 'loss' } {
  if (DARK.test(written)) return { kind: 'loss', unit: 'dBm', noLight: true, referenceId };
  return { kind: 'loss', ...parseReading(written, unit), referenceId };
}

export type HowTaken = 'typed' | 'confirmed' | 'pasted';
interface TakenCell {
  readonly value: EntryValue | null;
  readonly problem: string | null;
  /** It looks like a slip: taken when it is entered once more. */
  readonly asks: boolean;
}

/** What becomes of a cell's text. Typed digits are asked about when they look like a slip; pasted ones were not typed. */
export function takenOf(read: CellReading, text: string, how: HowTaken): TakenCell {
  switch (read.state) {
    case 'bad': {
      const words =
        read.code === 'entry.no_reference'
          ? 'Set a reference first.'
          : errorWords(read.code as ErrorCode, read.params);
      return { value: null, problem: words, asks: false };
    }
    case 'ask':
      if (how === 'typed') {
        const problem = `${text.trim()} looks like a slip of the decimal sign. Enter again keeps it.`;
        return { value: null, problem, asks: true };
      }
      return {
        value: how === 'confirmed' ? { ...read.value, slipConfirmed: true } : read.value,
        problem: null,
        asks: false,
      };
    case 'empty':
      return { value: null, problem: null, asks: false };
    case 'value':
      return { value: read.value, problem: null, asks: false };
    default:
      return read satisfies never;
  }
}

/** A standing value as the text of its cell; its unit is written where it is not the one in use. */
export function cellText(value: EntryValue | null, unit: Unit): string {
  if (value === null) return '';
  if (value.kind === 'loss' && value.noLight) return 'dark';
  if (value.kind !== 'loss' && value.kind !== 'measure') return '';
  const text = value.text ?? '';
  return value.unit === unit ? text : `${text} ${value.unit === 'uW' ? 'µW' : value.unit}`;
}

/** A cell's name, as it is read out and as a problem is told by. */
export const cellName = ({ fibers, columns }: Grid, row: number, column: number): string =>
  ['Fiber', String(fibers[row]), columns[column]!.label].filter((x) => x !== '').join(' ');
