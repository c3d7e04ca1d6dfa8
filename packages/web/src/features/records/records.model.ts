import type { AttemptListFilter, AttemptOrder, AttemptRow } from '@clear-mark/contract';
import { isSkill, type Skill, SKILLS, skillsInOrder, skillsOf } from '@clear-mark/core';
import { skillWords, VERDICT_WORDS } from '@clear-mark/words';
import { momentWords } from '../../shared/time-words.ts';

/** How many the server gives at once. */
export const PAGE = 100;

/** A line of the list: the record once its page is there, until then only its place. */
export interface RecordLine {
  readonly id: string;
  readonly row: AttemptRow | null;
}

/** The pages that lines `first` to `last` (from 0, both counted in) lie on and that are not there yet. */
export function pagesMissing(
  first: number,
  last: number,
  total: number,
  there: ReadonlyMap<number, unknown>,
): number[] {
  const end = Math.min(last, total - 1);
  const missing: number[] = [];
  for (let page = Math.floor(Math.max(0, first) / PAGE); page * PAGE <= end; page += 1) {
    if (!there.has(page)) missing.push(page);
  }
  return missing;
}

/** A place for each line of a list, none of them there yet. */
export const placesFor = (total: number): RecordLine[] =>
  Array.from({ length: total }, (_, i) => ({ id: `line ${i}`, row: null }));

/** The lines with a page of them there; what lies beyond the list is left out. The others are the same objects as before. */
export function withPage(
  lines: readonly RecordLine[],
  page: number,
  rows: readonly AttemptRow[],
): readonly RecordLine[] {
  const next = lines.slice();
  rows.slice(0, Math.max(0, lines.length - page * PAGE)).forEach((row, i) => {
    next[page * PAGE + i] = { id: row.attemptId, row };
  });
  return next;
}

/** What can be seen of a record; `order` where the list can be put in order by it. */
export interface RecordColumn {
  readonly key: string;
  readonly label: string;
  readonly width: number;
  readonly order?: AttemptOrder;
  /** Always seen. */
  readonly fixed?: true;
}
const COLUMNS: readonly RecordColumn[] = [
  { key: 'trainee', label: 'Trainee', width: 190, order: 'trainee', fixed: true },
  { key: 'piece', label: 'Piece', width: 100, order: 'piece', fixed: true },
  { key: 'verdict', label: 'Result', width: 150, order: 'verdict', fixed: true },
  { key: 'method', label: 'Method', width: 260, order: 'method' },
  { key: 'started', label: 'Started', width: 150, order: 'started' },
  { key: 'loss', label: 'Loss, dB', width: 190 },
];
const FIXED = COLUMNS.filter((c) => c.fixed);
/** Columns that can be chosen: those of every record, and one for each skill, a school's own among them. */
const freeColumns = (own: readonly Skill[]): RecordColumn[] => [
  ...COLUMNS.filter((c) => !c.fixed),
  ...skillsInOrder([...SKILLS, ...own]).map((s) => ({ key: s, label: skillWords(s), width: 108 })),
];
/** Seen until somebody chooses otherwise. */
export const USUAL_COLUMNS = ['method', 'started', 'loss'];

/** Which columns are seen, by what was kept as text; what is no column is passed over. */
export function columnsSeen(kept: string | null): string[] {
  const known = new Set(freeColumns([]).map((c) => c.key));
  return kept === null ? USUAL_COLUMNS : kept.split(' ').filter((key) => known.has(key) || isSkill(key));
}

/** Columns that can be chosen: those that are seen, in their order, then the others. */
export function columnsInOrder(seen: readonly string[], own: readonly Skill[]): RecordColumn[] {
  const free = freeColumns(own);
  const shown = seen.flatMap((key) => free.find((c) => c.key === key) ?? []);
  return [...shown, ...free.filter((c) => !seen.includes(c.key))];
}
/** The columns of the table, those that are always seen first. */
export const columnsShown = (seen: readonly string[], own: readonly Skill[]): RecordColumn[] => [
  ...FIXED,
  ...columnsInOrder(seen, own).filter((c) => seen.includes(c.key)),
];
/** The columns that are seen with one more at their end, or without it. */
export const columnTurned = (seen: readonly string[], key: string): string[] =>
  seen.includes(key) ? seen.filter((each) => each !== key) : [...seen, key];

/** The same column again turns the order round; another begins with the newest, the first letter, the passes. */
export function nextOrder(filter: AttemptListFilter, column: AttemptOrder): { sort?: string; up?: string } {
  const before = filter.sort ?? 'started';
  const up = column === before ? filter.up !== 'yes' : column !== 'started';
  return {
    ...(column === 'started' ? {} : { sort: column }),
    ...(up ? { up: 'yes' } : {}),
  };
}

export const lossText = (lossDb: number | null): string => (lossDb === null ? 'no light' : lossDb.toFixed(2));
export const startedText = (row: AttemptRow): string => momentWords(row.startedAt, 'short');

/** The chosen records as the lines of a file. */
export function recordsTable(rows: readonly AttemptRow[]) {
  const skills = skillsInOrder([...SKILLS, ...rows.flatMap((r) => skillsOf(r.skills))]);
  const wavelengths = [...new Set(rows.flatMap((r) => r.losses.map((l) => l.wavelengthNm)))].sort(
    (a, b) => a - b,
  );
  return {
    head: [
      'Trainee',
      'Piece',
      'Method',
      'Day',
      'Started',
      'Result',
      ...skills.map((s) => skillWords(s)),
      ...wavelengths.map((nm) => `Loss at ${nm} nm, dB`),
      'Reason',
    ],
    rows: rows.map((r) => [
      r.traineeName,
      r.pieceLabel,
      r.methodTitle,
      r.day,
      r.startedAt,
      VERDICT_WORDS[r.verdict],
      ...skills.map((s) => (r.skills[s] ? VERDICT_WORDS[r.skills[s]] : '')),
      ...wavelengths.map((nm) => r.losses.find((l) => l.wavelengthNm === nm)?.lossDb ?? null),
      r.reason ?? '',
    ]),
  };
}
