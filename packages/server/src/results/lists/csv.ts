import { verdictOfMark } from '@clear-mark/core';
import { CSV_TABLES, type CsvQuery, type CsvTableName, type Person } from '@clear-mark/contract';
import type { Response } from 'express';
import type { z } from 'zod';
import { classForInstructor } from '../../classes/index.ts';
import { record } from '../../audit/index.ts';
import type { Database } from '../../database/database.ts';
import { plainText, sendCsv } from '../../http/csv.ts';
import { readLabels } from '../labels.ts';
import { resultsOf } from '../results.service.ts';
import { attemptLine, entryCells, type Line, pieceCells, readingCells } from './csv-cells.ts';
import { csvStore } from './csv.store.ts';

type Query = z.infer<typeof CsvQuery>;
interface Asked {
  readonly db: Database;
  readonly classId: string;
  readonly timeZone: string;
  readonly filter: Query;
  readonly me: Person;
  readonly now: Date;
}

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
