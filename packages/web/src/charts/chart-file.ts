import { stringify } from 'csv-stringify/browser/esm/sync';

export interface ChartTable {
  readonly head: readonly string[];
  readonly rows: readonly (readonly (string | number | null)[])[];
}

/** The figures of a chart by RFC 4180; what a spreadsheet would take for a formula is marked as text. */
export const tableCsv = ({ head, rows }: ChartTable): string =>
  stringify([head, ...rows] as never, { record_delimiter: '\r\n', escape_formulas: true });

/** A name for a file from a title: small letters, figures and hyphens. */
export const fileName = (title: string, ending: string): string =>
  `${title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')}.${ending}`;

/** Hands a file to the person, as a download. */
export function download(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  [link.href, link.download] = [url, name];
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
