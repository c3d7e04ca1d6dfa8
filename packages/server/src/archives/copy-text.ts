import type { Row } from './archive-rows.ts';

const ESCAPES: Readonly<Record<string, string>> = { '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' };
const SPECIAL = /[\\\n\r\t]/g;
const escaped = (text: string): string => text.replace(SPECIAL, (c) => ESCAPES[c]!);

/**
 * Rows as PostgreSQL's COPY reads them in its text format (PostgreSQL documentation, COPY, Text Format): columns in order, a
 * tab between them; lists as array literals where the column is an array, other lists and objects as JSON.
 */
export function copyText(
  columns: readonly string[],
  isArray: (column: string) => boolean,
): (row: Row) => string {
  const kinds = columns.map((column) => ({ column, array: isArray(column) }));
  return (row) => `${kinds.map(({ column, array }) => field(row[column], array)).join('\t')}\n`;
}

function field(value: unknown, array: boolean): string {
  if (value === null || value === undefined) return '\\N';
  if (typeof value === 'string') return escaped(value);
  if (typeof value === 'number') return String(value);
  if (typeof value === 'boolean') return value ? 't' : 'f';
  return escaped(array ? arrayLiteral(value as readonly unknown[]) : JSON.stringify(value));
}

const arrayLiteral = (items: readonly unknown[]): string =>
  `{${items.map((item) => `"${String(item).replace(/["\\]/g, '\\$&')}"`).join(',')}}`;
