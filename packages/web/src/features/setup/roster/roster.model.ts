import { type Account, MOST_OF_ROSTER, Name, type RosterBody } from '@clear-mark/contract';
import { v7 } from 'uuid';
import {
  cellOf,
  type CsvFile,
  type CsvShape,
  isFormula,
  type Mapping,
} from '../../../shared/csv/csv-file.ts';

/** What a column of a roster holds. */
export type Column = 'name' | 'first' | 'last' | 'group';

export const ROSTER: CsvShape<Column> = {
  most: MOST_OF_ROSTER,
  headings: {
    name: /^(full )?name$|^trainee$|^participant$|^student$/i,
    first: /^(first|given)[ _-]?names?$|^forename$/i,
    last: /^(last|family)[ _-]?name$|^surname$/i,
    group: /^(group|team|bench group|crew)$/i,
  },
};
/** The first column is the name where no heading says so. */
export const withName = (mapping: Mapping<Column>): Mapping<Column> =>
  mapping.name === undefined && mapping.first === undefined && mapping.last === undefined
    ? { ...mapping, name: 0 }
    : mapping;

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
export function linesOf(file: CsvFile, mapping: Mapping<Column>, { inClass, people }: There): Line[] {
  const here = new Set(inClass.map((t) => key(t.name)));
  const seen = new Set<string>();
  return file.lines.map(({ number, cells }) => {
    const name =
      cellOf(cells, mapping, 'name') ||
      `${cellOf(cells, mapping, 'first')} ${cellOf(cells, mapping, 'last')}`.trim();
    const group = cellOf(cells, mapping, 'group');
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
  if (isFormula(name)) return 'Begins like a formula of a spreadsheet.';
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
