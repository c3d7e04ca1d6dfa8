import { DomainError } from '../domain-error.ts';
import type { Unit } from '../units/index.ts';
import { parseReading, type ReadingText } from './parse-reading.ts';

/** A grid of cells as its view shows it: rows of fibers, columns of wavelengths and directions. */
export interface GridShape {
  readonly rows: number;
  readonly columns: number;
}

/** A pasted cell. `row` and `column` are places of the grid counted from 0, beyond its edge where it does not fit. */
export interface PastedCell {
  readonly row: number;
  readonly column: number;
  readonly written: string;
  readonly reading: ReadingText | null;
  /** Why it was not taken: a code of the words catalogue with its parameters. */
  readonly problem: { readonly code: string; readonly params: DomainError['params'] } | null;
}

/**
 * Lays text copied from a spreadsheet on a grid, from the cell that has the cursor: rows by lines, columns by tabs
 * (or semicolons, where there is no tab). On a grid of one column a single line runs down it. Empty cells say
 * nothing. A cell that is no reading, or lies beyond the edge, is given back with its problem and is not to be
 * stored; the others stand.
 * Problems: `value.not_a_number`, `value.wrong_unit`, `grid.beyond` with the number of columns and rows there are.
 * Example: 13 columns on a grid of 12 give 12 readings and one `grid.beyond`.
 */
export function placePaste(
  text: string,
  shape: GridShape,
  from: { readonly row: number; readonly column: number },
  unit: Unit,
): readonly PastedCell[] {
  const lines = text.replace(/\r\n?/g, '\n').replace(/\n+$/, '').split('\n');
  const separator = text.includes('\t') ? '\t' : ';';
  const pasted = lines.map((line) => line.split(separator));
  return turned(pasted, shape).flatMap((cells, r) =>
    cells.flatMap((written, c) =>
      written.trim() === '' ? [] : [place(written.trim(), from.row + r, from.column + c, shape, unit)],
    ),
  );
}

/** One line of many readings on a grid of one column runs down it: fibers side by side are rows here. */
function turned(pasted: readonly string[][], shape: GridShape): readonly (readonly string[])[] {
  const [only] = pasted;
  if (pasted.length !== 1 || shape.columns !== 1 || shape.rows === 1 || !only) return pasted;
  return only.map((cell) => [cell]);
}

function place(written: string, row: number, column: number, shape: GridShape, unit: Unit): PastedCell {
  const cell = { row, column, written };
  if (row >= shape.rows || column >= shape.columns) {
    const params = { rows: shape.rows, columns: shape.columns };
    return { ...cell, reading: null, problem: { code: 'grid.beyond', params } };
  }
  try {
    return { ...cell, reading: parseReading(written, unit), problem: null };
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    return { ...cell, reading: null, problem: { code: error.code, params: error.params } };
  }
}
