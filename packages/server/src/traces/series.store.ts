import type { OwnTraceSeries, Person } from '@clear-mark/contract';
import type { Call, TraceMark, TrueEvent } from '@clear-mark/core';
import type { Database } from '../database/database.ts';

export interface SeriesRow {
  readonly id: string;
  readonly classId: string;
  readonly label: string;
}
export interface ItemRow {
  readonly seriesId: string;
  readonly position: number;
  readonly traceId: string;
  readonly events: readonly TrueEvent[];
  readonly withinM: number;
  readonly reference: Call;
}
export interface RunRow {
  readonly id: string;
  readonly seriesId: string;
  readonly personId: string;
  readonly personName: string;
  readonly startedAt: string;
  readonly finishedAt: string | null;
  readonly attemptId: string | null;
}
export interface AnswerRow {
  readonly runId: string;
  readonly position: number;
  readonly marks: readonly TraceMark[];
  readonly said: Call;
  readonly ms: number;
}

const SERIES = ['id', 'class_id as classId', 'label'];

export const traceSeriesStore = (db: Database) => {
  const runs = () =>
    db('trace_runs as r')
      .join('people as p', 'p.id', 'r.person_id')
      .select<RunRow[]>([
        'r.id',
        'r.trace_series_id as seriesId',
        'r.person_id as personId',
        'p.name as personName',
        'r.started_at as startedAt',
        'r.finished_at as finishedAt',
        'r.attempt_id as attemptId',
      ]);
  return {
    ofClass: (classId: string): Promise<SeriesRow[]> =>
      db('trace_series').select(SERIES).where({ class_id: classId }).orderBy('made_at', 'desc'),
    byId: async (id: string): Promise<SeriesRow | null> =>
      (await db('trace_series').select(SERIES).where({ id }).first()) ?? null,
    items: (seriesIds: readonly string[]): Promise<ItemRow[]> =>
      db('trace_items')
        .select([
          'trace_series_id as seriesId',
          'position',
          'trace_id as traceId',
          'events',
          'within_m as withinM',
          'reference',
        ])
        .whereIn('trace_series_id', seriesIds)
        .orderBy(['trace_series_id', 'position']),
    runs: (seriesIds: readonly string[]): Promise<RunRow[]> =>
      runs().whereIn('r.trace_series_id', seriesIds).orderBy('r.started_at') as unknown as Promise<RunRow[]>,
    run: async (id: string): Promise<RunRow | null> =>
      ((await runs().where('r.id', id).first()) as RunRow | undefined) ?? null,
    runOf: async (seriesId: string, personId: string): Promise<RunRow | null> =>
      ((await runs().where({ 'r.trace_series_id': seriesId, 'r.person_id': personId }).first()) as
        | RunRow
        | undefined) ?? null,
    answers: (runIds: readonly string[]): Promise<AnswerRow[]> =>
      db('trace_answers')
        .select(['trace_run_id as runId', 'position', 'marks', 'said', 'ms'])
        .whereIn('trace_run_id', runIds)
        .orderBy(['trace_run_id', 'position']),

    /** Series of the classes that a person is in, or of all for the lead, with the person's own run. */
    forPerson: async ({
      id,
      role,
    }: Person): Promise<(Omit<OwnTraceSeries, 'run'> & { runId: string | null })[]> => {
      const found = await db('trace_series as s')
        .leftJoin('trace_runs as r', (on) => on.on('r.trace_series_id', 's.id').andOnVal('r.person_id', id))
        .select([
          's.id',
          's.label',
          'r.id as runId',
          db.raw('(select count(*)::int from trace_items i where i.trace_series_id = s.id) as traces'),
        ])
        .modify((query) => {
          if (role === 'lead') return;
          void query.whereIn(
            's.class_id',
            db('class_members').select('class_id').where({ person_id: id }).whereNull('left_at'),
          );
        })
        .orderBy('s.made_at', 'desc');
      return found as (Omit<OwnTraceSeries, 'run'> & { runId: string | null })[];
    },

    insert: async (
      series: SeriesRow & { readonly madeBy: string },
      items: readonly Omit<ItemRow, 'seriesId'>[],
    ): Promise<void> => {
      await db('trace_series').insert({
        id: series.id,
        class_id: series.classId,
        label: series.label,
        made_by: series.madeBy,
      });
      await db('trace_items').insert(
        items.map((item) => ({
          trace_series_id: series.id,
          position: item.position,
          trace_id: item.traceId,
          events: JSON.stringify(item.events),
          within_m: item.withinM,
          reference: item.reference,
        })),
      );
    },
    insertRun: async (run: {
      id: string;
      seriesId: string;
      personId: string;
      startedAt: string;
    }): Promise<void> => {
      await db('trace_runs')
        .insert({
          id: run.id,
          trace_series_id: run.seriesId,
          person_id: run.personId,
          started_at: run.startedAt,
        })
        .onConflict(['trace_series_id', 'person_id'])
        .ignore();
    },
    /** The run with its row locked until the transaction ends. */
    lockRun: async (id: string): Promise<void> => {
      await db('trace_runs').select('id').where({ id }).forUpdate();
    },
    /** False where the trace was answered already. */
    addAnswer: async (answer: AnswerRow): Promise<boolean> => {
      const made = await db('trace_answers')
        .insert({
          trace_run_id: answer.runId,
          position: answer.position,
          marks: JSON.stringify(answer.marks),
          said: answer.said,
          ms: answer.ms,
        })
        .onConflict(['trace_run_id', 'position'])
        .ignore()
        .returning('position');
      return made.length === 1;
    },
    finish: async (id: string, at: string, attemptId: string | null): Promise<void> => {
      await db('trace_runs').where({ id }).update({ finished_at: at, attempt_id: attemptId });
    },
    fileAt: async (seriesId: string, position: number): Promise<Buffer | null> => {
      const found = await db('trace_items as i')
        .join('traces as t', 't.id', 'i.trace_id')
        .select('t.bytes')
        .where({ 'i.trace_series_id': seriesId, 'i.position': position })
        .first<{ bytes: Buffer } | undefined>();
      return found?.bytes ?? null;
    },
  };
};
