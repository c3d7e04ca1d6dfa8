import { DomainError } from '../domain-error.ts';

/** A square table of whole counts as shares, with its margins. */
export interface SquareTable {
  readonly n: number;
  readonly p: readonly (readonly number[])[];
  readonly rows: readonly number[];
  readonly columns: readonly number[];
}

/** Rows rater A, columns rater B. Null for a table of nothing. Error: `agreement.bad_table`. */
export function squareTable(table: readonly (readonly number[])[]): SquareTable | null {
  const k = table.length;
  const whole = table.every((row) => row.length === k && row.every((c) => Number.isInteger(c) && c >= 0));
  if (k < 2 || !whole) throw new DomainError('agreement.bad_table', { rows: k });
  const n = table.flat().reduce((a, b) => a + b, 0);
  if (n === 0) return null;
  const p = table.map((row) => row.map((c) => c / n));
  return {
    n,
    p,
    rows: p.map((row) => row.reduce((a, b) => a + b, 0)),
    columns: p.map((_, j) => p.reduce((sum, row) => sum + row[j]!, 0)),
  };
}
