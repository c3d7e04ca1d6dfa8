import { type EntryValue, isOwnName, SKILLS, skillsOf, verdictOfMark } from '@clear-mark/core';
import { skillWords } from '@clear-mark/words';
import type { DecimalMark } from '@clear-mark/contract';
import { plainText, typedNumber } from '../../http/csv.ts';
import type { AttemptCsvRow, EntryCsvRow, ReadingCsvRow } from './csv.store.ts';

/** The cells of a line, in the order of the columns. */
export type Line = readonly unknown[];

export const pieceCells = (row: AttemptCsvRow): Line => [
  row.id,
  row.started,
  plainText(row.trainee),
  plainText(row.piece),
];

export function attemptLine(row: AttemptCsvRow): Line {
  const loss = (nm: number): number | string => row.losses.find((l) => l.nm === nm)?.db ?? '';
  const thing = (kind: string): string => plainText(row.things.find((t) => t.kind === kind)?.label ?? '');
  return [
    ...pieceCells(row),
    row.method,
    row.version,
    verdictOfMark(row.marks['whole'] ?? 'I'),
    ...SKILLS.map((skill) => (row.marks[skill] === undefined ? '' : verdictOfMark(row.marks[skill]))),
    loss(1310),
    loss(1550),
    row.losses[0]?.limit ?? '',
    thing('bench'),
    thing('cleaver'),
    thing('scope'),
    thing('instrument'),
    thing('cord'),
    row.kind,
    plainText(row.signer),
    plainText(row.reason ?? ''),
    ownSkillsOf(row.marks),
  ];
}

/** The verdicts in the school's own skills in one field: `Closure work: pass; Ducts: fail`. */
const ownSkillsOf = (marks: AttemptCsvRow['marks']): string =>
  skillsOf(marks)
    .filter(isOwnName)
    .map((skill) => `${skillWords(skill)}: ${verdictOfMark(marks[skill]!)}`)
    .join('; ');

export function entryCells(e: EntryCsvRow, decimal: DecimalMark): Line {
  const [value, unit] = e.value === null ? ['', ''] : valueCells(e.value);
  return [
    e.id,
    e.seq,
    e.kind,
    e.criterionId ?? '',
    e.part,
    typedNumber(value, decimal),
    unit,
    plainText(e.note ?? ''),
    plainText(e.by),
    e.capacity,
    e.source,
    e.at,
    e.supersedes.join(' '),
    e.targetId ?? '',
  ];
}

/** What an entry says, as one text, and its unit. */
function valueCells(value: EntryValue): [text: string, unit: string] {
  switch (value.kind) {
    case 'check':
      return [value.passed ? 'pass' : 'fail', ''];
    case 'measure':
      return [value.text, value.unit];
    case 'loss':
      return [value.text ?? 'no light', value.unit];
    case 'count':
      return [String(value.count), ''];
    case 'timed':
      return [value.text ?? secondsBetween(value), ''];
    case 'grade':
      return [value.level, ''];
    case 'call':
      return [value.said, ''];
    case 'stop':
      return [value.hazard, ''];
    case 'charge':
      return [`${value.skill} ${value.cause}`, ''];
    case 'dismiss':
      return [`${value.symptom} ${value.cause}`, ''];
    case 'timer':
      return [value.startedAt, ''];
    case 'map':
      return [value.far.map((port) => port ?? '').join(' '), ''];
    case 'hand':
      return ['', ''];
    default: {
      const never: never = value;
      return never;
    }
  }
}
const secondsBetween = (value: { startedAt?: string; stoppedAt?: string }): string =>
  value.startedAt === undefined || value.stoppedAt === undefined
    ? ''
    : String((Date.parse(value.stoppedAt) - Date.parse(value.startedAt)) / 1000);

export const readingCells = (r: ReadingCsvRow, decimal: DecimalMark): Line => [
  r.entryId,
  r.wavelengthNm,
  r.direction,
  r.fiber ?? '',
  r.noLight || r.value === null ? '' : typedNumber(r.value, decimal),
  r.unit,
  r.noLight ? 'yes' : 'no',
  r.referenceId,
  r.method,
  typedNumber(r.referenceDbm, decimal),
  plainText(r.instrument ?? ''),
  r.takenAt ?? '',
  r.calibratedOn ?? '',
];
