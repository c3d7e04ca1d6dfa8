import { isOwnName, type EntryValue, SKILLS, skillsOf, verdictOfMark } from '@clear-mark/core';
import { skillWords } from '@clear-mark/words';
import {
  CSV_TABLES,
  type CsvQuery,
  type CsvTableName,
  type DecimalMark,
  type Person,
} from '@clear-mark/contract';
import type { Response } from 'express';
import type { z } from 'zod';
import { classForInstructor } from '../../classes/index.ts';
import { record } from '../../audit/index.ts';
import type { Database } from '../../database/database.ts';
import { plainText, sendCsv, typedNumber } from '../../http/csv.ts';
import { readLabels } from '../labels.ts';
import { resultsOf } from '../results.service.ts';
import { type AttemptCsvRow, csvStore, type EntryCsvRow, type ReadingCsvRow } from './csv.store.ts';

type Query = z.infer<typeof CsvQuery>;
interface Asked {
  readonly db: Database;
  readonly classId: string;
  readonly timeZone: string;
  readonly filter: Query;
  readonly me: Person;
  readonly now: Date;
}
type Line = readonly unknown[];

/** The lines of each table, page by page as they are read. */
const LINES: Readonly<Record<CsvTableName, (asked: Asked) => AsyncGenerator<Line>>> = {
  async *attempts({ db, classId, filter, timeZone }) {
    for await (const page of csvStore(db).pages(classId, filter, timeZone)) yield* page.map(attemptLine);
  },

  async *outcomes({ db, classId, filter, timeZone }) {
    const labels = await readLabels(db);
    for await (const page of csvStore(db).pages(classId, filter, timeZone)) {
      const byId = new Map(page.map((row) => [row.id, row]));
      for (const o of await csvStore(db).outcomesOf([...byId.keys()])) {
        const label = labels.criteria.get(o.criterion_id);
        yield [
          ...pieceCells(byId.get(o.attempt_id)!),
          o.criterion_id,
          label?.label ?? '',
          label?.stepTitle ?? '',
          o.skill,
          verdictOfMark(o.mark),
          o.points,
          o.points - o.lost,
          o.value ?? '',
          o.faults.join(' '),
        ];
      }
    }
  },

  async *entries({ db, classId, filter, timeZone }) {
    for await (const page of csvStore(db).pages(classId, filter, timeZone)) {
      const byId = new Map(page.map((row) => [row.id, row]));
      for (const e of await csvStore(db).entriesOf([...byId.keys()]))
        yield [...pieceCells(byId.get(e.attemptId)!), ...entryCells(e, filter.decimal)];
    }
  },

  async *readings({ db, classId, filter, timeZone }) {
    for await (const page of csvStore(db).pages(classId, filter, timeZone)) {
      const byId = new Map(page.map((row) => [row.id, row]));
      for (const r of await csvStore(db).readingsOf([...byId.keys()]))
        yield [...pieceCells(byId.get(r.attemptId)!), ...readingCells(r, filter.decimal)];
    }
  },

  async *standings({ db, classId, filter, me, now }) {
    const { standings } = await resultsOf(db, classId, filter, me, now);
    for (const { traineeName, cells } of standings) {
      for (const { skill, standing, rate, window, behind } of cells) {
        const numbers =
          rate.kind === 'rate' ? [rate.k, rate.n, rate.share, rate.low, rate.high] : [0, 0, '', '', ''];
        yield [plainText(traineeName), skill, standing, ...numbers, window, plainText(behind?.label ?? '')];
      }
    }
  },

  async *stock({ db, classId, timeZone }) {
    for (const t of await csvStore(db).stock(classId, timeZone))
      yield [
        t.id,
        t.kind,
        plainText(t.label),
        t.inUse ? 'yes' : 'no',
        t.pieces,
        t.lastUsed ?? '',
        t.checkedOn ?? '',
        t.dueOn ?? '',
        t.lossDb ?? '',
        t.calibratedOn ?? '',
        t.calibrationDueOn ?? '',
      ];
  },
};

/** Sends a table of a class. Errors: those of the class. */
export async function sendTable(
  table: CsvTableName,
  asked: Omit<Asked, 'timeZone'>,
  response: Response,
): Promise<void> {
  const { db, classId, filter, me } = asked;
  const { timeZone } = await classForInstructor(db, classId, me);
  await record(db, { kind: 'export', by: me.id, classId, detail: `${table} as CSV` });
  const columns = CSV_TABLES[table].columns.map(([name]) => name);
  const lines = LINES[table]({ ...asked, timeZone });
  await sendCsv(
    response,
    `${table}.csv`,
    columns,
    async (csv) => {
      for await (const line of lines) csv.write(line);
    },
    filter.decimal,
  );
}

const pieceCells = (row: AttemptCsvRow): Line => [
  row.id,
  row.started,
  plainText(row.trainee),
  plainText(row.piece),
];

function attemptLine(row: AttemptCsvRow): Line {
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

function entryCells(e: EntryCsvRow, decimal: DecimalMark): Line {
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

const readingCells = (r: ReadingCsvRow, decimal: DecimalMark): Line => [
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
