import { parse } from 'papaparse';

/** A file as text: UTF-8 where it is that, with or without its mark, else the letters of western Europe. */
export function textOf(bytes: ArrayBuffer): { text: string; latin: boolean } {
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), latin: false };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), latin: true };
  }
}

export interface CsvFile {
  readonly headings: readonly string[];
  /** Cells of each line with the number of its line in the file. */
  readonly lines: readonly { readonly number: number; readonly cells: readonly string[] }[];
}
export type Read =
  | { readonly kind: 'read'; readonly file: CsvFile }
  | { readonly kind: 'refused'; readonly why: string };

/** What a file holds: its columns by the headings that name them, and how many lines are still believed. */
export interface CsvShape<Column extends string> {
  readonly headings: Readonly<Record<Column, RegExp>>;
  readonly most: number;
}

/** What separates the columns: the sign that the first line with something in it has most of, outside of quotes. */
function separatorOf(text: string): string {
  const first = text.split(/\r?\n/).find((line) => line.trim() !== '') ?? '';
  const bare = first.replace(/"[^"]*"/g, '');
  const times = (sign: string): number => bare.split(sign).length;
  return [',', ';', '\t', '|'].reduce((best, sign) => (times(sign) > times(best) ? sign : best));
}

const columnOf = <Column extends string>(heading: string, { headings }: CsvShape<Column>): Column | null =>
  (Object.keys(headings) as Column[]).find((column) => headings[column].test(heading)) ?? null;

/** A CSV by RFC 4180, whatever separates its columns. */
export function readCsv<Column extends string>(text: string, shape: CsvShape<Column>): Read {
  const { data, errors } = parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: false,
    delimiter: separatorOf(text),
    preview: shape.most + 2,
  });
  const broken = errors.find((e) => e.type === 'Quotes');
  if (broken)
    return { kind: 'refused', why: `Line ${(broken.row ?? 0) + 1}: a quotation mark is not closed.` };
  const lines = data
    .map((cells, i) => ({ number: i + 1, cells: cells.map((c) => c.replace(/\s+/g, ' ').trim()) }))
    .filter((line) => line.cells.some((c) => c !== ''));
  const [head, ...rest] = lines;
  if (!head) return { kind: 'refused', why: 'There is nothing in this file.' };
  if (rest.length > shape.most) {
    return { kind: 'refused', why: `More than ${shape.most} lines: that is no class. Split the file.` };
  }
  const isHead = head.cells.some((c) => columnOf(c, shape) !== null);
  return {
    kind: 'read',
    file: {
      headings: isHead ? head.cells : head.cells.map((_, i) => `Column ${i + 1}`),
      // Files that were put together have their headings again.
      lines: (isHead ? rest : lines).filter((l) => !isHead || l.cells.join('\t') !== head.cells.join('\t')),
    },
  };
}

export type Mapping<Column extends string> = Readonly<Partial<Record<Column, number>>>;

/** Which columns are which, by their headings; the first of two that are named alike. */
export function mappingOf<Column extends string>(file: CsvFile, shape: CsvShape<Column>): Mapping<Column> {
  const found: Partial<Record<Column, number>> = {};
  file.headings.forEach((heading, i) => {
    const column = columnOf(heading, shape);
    if (column && found[column] === undefined) found[column] = i;
  });
  return found;
}

/** The cell of a column, empty where the file has none. */
export function cellOf<Column extends string>(
  cells: readonly string[],
  mapping: Mapping<Column>,
  column: Column,
): string {
  const index = mapping[column];
  return index === undefined ? '' : (cells[index] ?? '');
}

/** A spreadsheet would run such a text. */
export const isFormula = (text: string): boolean => /^[=+@]|^-\S/.test(text);
