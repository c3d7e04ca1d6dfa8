import { stringify } from 'csv-stringify/browser/esm/sync';

export interface ChartTable {
  readonly head: readonly string[];
  readonly rows: readonly (readonly (string | number | null)[])[];
}

/** The figures of a chart by RFC 4180; what a spreadsheet would take for a formula is marked as text. */
export const tableCsv = ({ head, rows }: ChartTable): string =>
  stringify([head, ...rows] as never, { record_delimiter: '\r\n', escape_formulas: true });
