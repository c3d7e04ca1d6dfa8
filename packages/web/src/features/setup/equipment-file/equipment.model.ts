import { ownName, THING_KINDS, type ThingKind } from '@clear-mark/core';
import { MOST_OF_EQUIPMENT, type Thing } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { v7 } from 'uuid';
import {
  cellOf,
  type CsvFile,
  type CsvShape,
  isFormula,
  type Mapping,
} from '../../../shared/csv/csv-file.ts';

/** What a column of a list of equipment holds. */
export type Column = 'kind' | 'label';

export const EQUIPMENT: CsvShape<Column> = {
  most: MOST_OF_EQUIPMENT,
  headings: {
    kind: /^(kind|type|category|equipment)$/i,
    label: /^(label|name|tag|inventory|asset)( (no\.?|number|tag))?$/i,
  },
};
/** The first two columns, in this order, where no heading says so. */
export const withBoth = (mapping: Mapping<Column>): Mapping<Column> => {
  const label = mapping.label ?? (mapping.kind === 1 ? 0 : 1);
  return { kind: mapping.kind ?? (label === 0 ? 1 : 0), label };
};

const plain = (text: string): string => text.toLocaleLowerCase().replace(/[\s_-]+/g, ' ');

/** The kind that a word names: one of the trade by its name, in the singular or the plural, else an own kind of the school. */
export function kindOf(word: string): ThingKind | null {
  const wanted = plain(word).trim();
  const same = (kind: ThingKind): boolean =>
    [plain(kind), plain(thingWords(kind))].some((name) => [name, `${name}s`, `${name}es`].includes(wanted));
  return THING_KINDS.find(same) ?? ownName(word);
}

export interface Line {
  readonly number: number;
  readonly kind: ThingKind | null;
  readonly label: string;
  readonly becomes: 'new' | 'here' | 'twice' | 'bad';
  readonly problem: string | null;
}

const key = (kind: ThingKind, label: string): string => `${kind} ${label.toLocaleLowerCase()}`;

/** What becomes of each line of a list of equipment. */
export function linesOf(file: CsvFile, mapping: Mapping<Column>, there: readonly Thing[]): Line[] {
  const here = new Set(there.map((t) => key(t.kind, t.label)));
  const seen = new Set<string>();
  return file.lines.map(({ number, cells }) => {
    const word = cellOf(cells, mapping, 'kind');
    const label = cellOf(cells, mapping, 'label');
    const kind = word === '' ? null : kindOf(word);
    const line = { number, kind, label, problem: null };
    const problem = problemOf(word, kind, label);
    if (problem !== null || kind === null) return { ...line, becomes: 'bad', problem };
    if (here.has(key(kind, label))) return { ...line, becomes: 'here' };
    if (seen.has(key(kind, label))) return { ...line, becomes: 'twice' };
    seen.add(key(kind, label));
    return { ...line, becomes: 'new' };
  });
}

function problemOf(word: string, kind: ThingKind | null, label: string): string | null {
  if (word === '') return 'No kind.';
  if (kind === null) return `“${word}” is no kind of equipment.`;
  if (label === '') return 'No label.';
  if (isFormula(label)) return 'Begins like a formula of a spreadsheet.';
  return label.length > 60 ? 'A label has at most 60 characters.' : null;
}

/** What is sent of the lines that are added. */
export const equipmentBody = (lines: readonly Line[]) => ({
  things: lines.flatMap(({ becomes, kind, label }) =>
    becomes === 'new' && kind !== null ? [{ id: v7(), kind, label }] : [],
  ),
});
