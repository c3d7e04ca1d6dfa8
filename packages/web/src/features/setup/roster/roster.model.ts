import { type Account, MOST_OF_ROSTER, Name, type RosterBody } from '@clear-mark/contract';
import { parse } from 'papaparse';
import { v7 } from 'uuid';

/** A file as text: UTF-8 where it is that, with or without its mark, else the letters of western Europe. */
export function textOf(bytes: ArrayBuffer): { text: string; latin: boolean } {
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), latin: false };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), latin: true };
  }
}

export interface RosterFile {
  readonly headings: readonly string[];
  /** Cells of each line with the number of its line in the file. */
  readonly lines: readonly { readonly number: number; readonly cells: readonly string[] }[];
}
export type Read =
  { readonly kind: 'read'; readonly file: RosterFile } | { readonly kind: 'refused'; readonly why: string };

/** What separates the columns: the sign that the first line with something in it has most of, outside of quotes. */
function separatorOf(text: string): string {
  const first = text.split(/\r?\n/).find((line) => line.trim() !== '') ?? '';
  const bare = first.replace(/"[^"]*"/g, '');
  const times = (sign: string): number => bare.split(sign).length;
  return [',', ';', '\t', '|'].reduce((best, sign) => (times(sign) > times(best) ? sign : best));
}

/** A CSV by RFC 4180, whatever separates its columns. */
export function readRoster(text: string): Read {
  const { data, errors } = parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: false,
    delimiter: separatorOf(text),
    preview: MOST_LINES + 2,
  });
  const broken = errors.find((e) => e.type === 'Quotes');
  if (broken)
    return { kind: 'refused', why: `Line ${(broken.row ?? 0) + 1}: a quotation mark is not closed.` };
  const lines = data
    .map((cells, i) => ({ number: i + 1, cells: cells.map((c) => c.replace(/\s+/g, ' ').trim()) }))
    .filter((line) => line.cells.some((c) => c !== ''));
  const [head, ...rest] = lines;
  if (!head) return { kind: 'refused', why: 'There is nothing in this file.' };
  if (rest.length > MOST_LINES) {
    return { kind: 'refused', why: `More than ${MOST_LINES} lines: that is no class. Split the file.` };
  }
  const isHead = head.cells.some((c) => guess(c) !== null);
  return {
    kind: 'read',
    file: {
      headings: isHead ? head.cells : head.cells.map((_, i) => `Column ${i + 1}`),
      // Files that were put together have their headings again.
      lines: (isHead ? rest : lines).filter((l) => !isHead || l.cells.join('\t') !== head.cells.join('\t')),
    },
  };
}
const MOST_LINES = MOST_OF_ROSTER;

/** What a column of a roster holds. */
export type Column = 'name' | 'first' | 'last' | 'group';
export type Mapping = Readonly<Partial<Record<Column, number>>>;

const HEADINGS: Readonly<Record<Column, RegExp>> = {
  name: /^(full )?name$|^trainee$|^participant$|^student$/i,
  first: /^(first|given)[ _-]?names?$|^forename$/i,
  last: /^(last|family)[ _-]?name$|^surname$/i,
  group: /^(group|team|bench group|crew)$/i,
};
const guess = (heading: string): Column | null =>
  (Object.keys(HEADINGS) as Column[]).find((column) => HEADINGS[column].test(heading)) ?? null;

/** Which columns are which, by their headings; the first one is the name where nothing says so. */
export function mappingOf({ headings }: RosterFile): Mapping {
  const found: Partial<Record<Column, number>> = {};
  headings.forEach((heading, i) => {
    const column = guess(heading);
    if (column && found[column] === undefined) found[column] = i;
  });
  return found.name === undefined && found.first === undefined && found.last === undefined
    ? { ...found, name: 0 }
    : found;
}

export interface Line {
  readonly number: number;
  readonly name: string;
  readonly group: string;
  /** Added as somebody new, as somebody who is in the school, or not at all. */
  readonly becomes: 'new' | 'known' | 'here' | 'twice' | 'bad';
  readonly known: Account | null;
  readonly problem: string | null;
}

interface There {
  readonly inClass: readonly { readonly name: string }[];
  readonly people: readonly Account[];
}

const key = (name: string): string => name.toLocaleLowerCase();

/** What becomes of each line: who is in the class stays, who is in the school is the same person, the others are new. */
export function linesOf(file: RosterFile, mapping: Mapping, { inClass, people }: There): Line[] {
  const here = new Set(inClass.map((t) => key(t.name)));
  const seen = new Set<string>();
  const at = (cells: readonly string[], column: Column): string => {
    const index = mapping[column];
    return index === undefined ? '' : (cells[index] ?? '');
  };
  return file.lines.map(({ number, cells }) => {
    const name = at(cells, 'name') || `${at(cells, 'first')} ${at(cells, 'last')}`.trim();
    const group = at(cells, 'group');
    const base = { number, name, group, known: null, problem: null };
    const problem = problemOf(name, group);
    if (problem !== null) return { ...base, becomes: 'bad', problem };
    if (here.has(key(name))) return { ...base, becomes: 'here' };
    if (seen.has(key(name))) return { ...base, becomes: 'twice' };
    seen.add(key(name));
    const same = people.filter((p) => p.role === 'trainee' && key(p.name) === key(name));
    return same.length === 1 ? { ...base, becomes: 'known', known: same[0]! } : { ...base, becomes: 'new' };
  });
}

function problemOf(name: string, group: string): string | null {
  if (name === '') return 'No name.';
  if (/^[=+@]|^-\S/.test(name)) return 'Begins like a formula of a spreadsheet.';
  if (!Name.safeParse(name).success) return 'A name has at most 80 characters.';
  if (group.length > 30) return 'A group has at most 30 characters.';
  return null;
}

/** What is sent of the lines that are added. `apart` are the numbers of lines whose person is somebody else after all. */
export const rosterBody = (lines: readonly Line[], apart: ReadonlySet<number>): RosterBody => ({
  people: lines.flatMap<RosterBody['people'][number]>(({ number, name, group, becomes, known }) => {
    if (becomes === 'known' && known && !apart.has(number))
      return [{ personId: known.id, newPerson: null, group }];
    if (becomes === 'new' || becomes === 'known') return [{ personId: v7(), newPerson: { name }, group }];
    return [];
  }),
});
