import type {
  FinishedTraceRun,
  OwnTraceSeries,
  Person,
  TraceAnswerBody,
  TraceSeries,
} from '@clear-mark/contract';
import {
  analyseTrace,
  judgeTraceEvents,
  judgeTraceReading,
  markWithinM,
  openTraceFile,
  readSeries,
  type SeriesReading,
  sorOfTrace,
  type Trace,
  type TraceMark,
  writeSor,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods';
import { classForInstructor, classForMember } from '../classes/index.ts';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { attemptOfReading } from './series-attempt.ts';
import { type AnswerRow, type ItemRow, type RunRow, traceSeriesStore } from './series.store.ts';
import { tracesStore } from './traces.store.ts';

export const traceSeriesService = (db: Database) => ({
  /** A series of kept traces; what is on each is fixed when the series is made. */
  add: async (
    classId: string,
    body: { id: string; label: string; traceIds: readonly string[] },
    me: Person,
  ): Promise<void> => {
    await classForInstructor(db, classId, me);
    await createOnce(
      () =>
        db.transaction(async (trx) => {
          const items = await itemsOf(trx, classId, body.traceIds);
          await traceSeriesStore(trx).insert(
            { id: body.id, classId, label: body.label, madeBy: me.id },
            items,
          );
          return true;
        }),
      async () => {
        const there = await traceSeriesStore(db).byId(body.id);
        return there?.classId === classId && there.label === body.label ? true : null;
      },
      () => true,
    );
  },

  list: async (classId: string, me: Person): Promise<TraceSeries[]> => {
    await classForInstructor(db, classId, me);
    const store = traceSeriesStore(db);
    const series = await store.ofClass(classId);
    const ids = series.map((s) => s.id);
    const items = await store.items(ids);
    const runs = await store.runs(ids);
    const answers = await store.answers(runs.map((r) => r.id));
    return series.map(({ id, label }) => {
      const own = items.filter((i) => i.seriesId === id);
      const ownRuns = runs.filter((r) => r.seriesId === id);
      return { id, label, traces: own.length, runs: ownRuns.map((run) => runOf(run, own, answers)) };
    });
  },

  own: async (me: Person): Promise<OwnTraceSeries[]> => {
    const store = traceSeriesStore(db);
    return Promise.all(
      (await store.forPerson(me)).map(async ({ runId, ...series }): Promise<OwnTraceSeries> => {
        const run = runId === null ? null : await store.run(runId);
        if (!run) return { ...series, run: null };
        const answers = await store.answers([run.id]);
        const finished = run.finishedAt !== null;
        const result = finished ? resultOf(await store.items([series.id]), answers) : null;
        return { ...series, run: { id: run.id, answered: answers.length, finished, result } };
      }),
    );
  },
});

/** A person's way through a series. */
export const traceRunsService = (db: Database) => ({
  /** Begins a run, or goes on with the one that this person has begun. */
  start: (seriesId: string, runId: string, me: Person, now: Date) =>
    db.transaction(async (trx) => {
      const store = traceSeriesStore(trx);
      const series = await store.byId(seriesId);
      if (!series) throw new AppError('not_found.trace_series');
      await classForMember(trx, series.classId, me);
      await store.insertRun({ id: runId, seriesId, personId: me.id, startedAt: now.toISOString() });
      const run = (await store.runOf(seriesId, me.id))!;
      return { id: run.id, answered: (await store.answers([run.id])).map((a) => a.position) };
    }),

  answer: (runId: string, body: TraceAnswerBody, me: Person): Promise<void> =>
    db.transaction(async (trx) => {
      const store = traceSeriesStore(trx);
      await store.lockRun(runId);
      const run = await ownRun(trx, runId, me);
      if (run.finishedAt !== null) throw new AppError('series.finished');
      if (body.position >= (await store.items([run.seriesId])).length)
        throw new AppError('series.no_such_trace');
      if (await store.addAnswer({ ...body, runId })) return;
      // Sent again it is no harm; another answer is refused.
      const there = (await store.answers([runId])).find((a) => a.position === body.position)!;
      const same = there.said === body.said && markText(there.marks) === markText(body.marks);
      if (!same) throw new AppError('series.other_answer');
    }),

  /** The end: from now on nothing is taken, and what was on the traces may be seen. Twice gives the same. */
  finish: (runId: string, me: Person, now: Date): Promise<FinishedTraceRun> =>
    db.transaction(async (trx) => {
      const store = traceSeriesStore(trx);
      await store.lockRun(runId);
      const run = await ownRun(trx, runId, me);
      const series = (await store.byId(run.seriesId))!;
      const items = await store.items([series.id]);
      const answers = await store.answers([runId]);
      const result = resultOf(items, answers);
      let { attemptId } = run;
      if (run.finishedAt === null) {
        attemptId = await attemptOfReading(trx, series, run, result, me, now);
        await store.finish(runId, now.toISOString(), attemptId);
      }
      return { result, attemptId, readings: items.map((item) => readingOf(item, answers)) };
    }),

  /** The points of a trace and nothing that its file says of them. */
  blind: async (runId: string, position: number, me: Person): Promise<Buffer> => {
    const run = await ownRun(db, runId, me);
    const bytes = await traceSeriesStore(db).fileAt(run.seriesId, position);
    if (!bytes) throw new AppError('series.no_such_trace');
    return Buffer.from(writeSor(sorOfTrace(firstOf(bytes), NO_LABELS)));
  },
});

/** The database gives the fields of a mark in an order of its own. */
const markText = (marks: readonly TraceMark[]): string => marks.map((m) => `${m.positionM} ${m.kind}`).join();

const NO_LABELS = {
  cableId: '',
  fiberId: '',
  from: '',
  to: '',
  operator: '',
  comment: '',
  takenAtS: 0,
} as const;

const firstOf = (bytes: Buffer): Trace => openTraceFile(bytes).traces[0]!;

/** The run, when it is this person's: nobody else's may even be known. */
async function ownRun(db: Database, runId: string, me: Person): Promise<RunRow> {
  const run = await traceSeriesStore(db).run(runId);
  if (!run || run.personId !== me.id) throw new AppError('not_found.run');
  return run;
}

const LIMITS = lossRulesFor('OS2', 'one_cord');

async function itemsOf(
  db: Database,
  classId: string,
  traceIds: readonly string[],
): Promise<Omit<ItemRow, 'seriesId'>[]> {
  const files = new Map((await tracesStore(db).files(classId, traceIds)).map((f) => [f.id, f.bytes]));
  const items = traceIds.map((traceId, position) => {
    const bytes = files.get(traceId);
    if (!bytes) throw new AppError('not_found.trace');
    const trace = firstOf(bytes);
    const analysis = analyseTrace(trace);
    return {
      position,
      traceId,
      events: analysis.events.map(({ positionM, kind, ghost }) => ({ positionM, kind, ghost })),
      withinM: markWithinM(trace),
      reference: judgeTraceEvents(analysis, {
        connectionDb: LIMITS.connectionDb.db,
        spliceDb: LIMITS.spliceDb.db,
      }),
    };
  });
  if (new Set(items.map((i) => i.reference)).size < 2) throw new AppError('series.one_sided_traces');
  return items;
}

const answerAt = (answers: readonly AnswerRow[], position: number): AnswerRow | null =>
  answers.find((a) => a.position === position) ?? null;

const resultOf = (items: readonly ItemRow[], answers: readonly AnswerRow[]): SeriesReading =>
  readSeries(items.map((item) => ({ ...item, answer: answerAt(answers, item.position) })));

function readingOf(item: ItemRow, answers: readonly AnswerRow[]): FinishedTraceRun['readings'][number] {
  const answer = answerAt(answers, item.position);
  return {
    position: item.position,
    reference: item.reference,
    said: answer?.said ?? null,
    marks: [...(answer?.marks ?? [])],
    reading: judgeTraceReading(item.events, answer?.marks ?? [], item.withinM),
  };
}

function runOf(
  run: RunRow,
  items: readonly ItemRow[],
  all: readonly AnswerRow[],
): TraceSeries['runs'][number] {
  const answers = all.filter((a) => a.runId === run.id);
  return {
    id: run.id,
    personName: run.personName,
    answered: answers.length,
    result: run.finishedAt === null ? null : resultOf(items, answers),
    attemptId: run.attemptId,
  };
}
