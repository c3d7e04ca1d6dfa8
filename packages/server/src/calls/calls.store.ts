import type { CallMark, OwnSeries, Person } from '@clear-mark/contract';
import type { Call, FaceFault, MeasuredFace, MeasuredRow } from '@clear-mark/core';
import type { z } from 'zod';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export interface SeriesRow {
  readonly id: string;
  readonly classId: string;
  readonly label: string;
  readonly missWeight: number;
  readonly secondsEach: number | null;
  readonly madeAt: string;
}
export interface ItemRow {
  readonly seriesId: string;
  readonly position: number;
  readonly reference: Call;
  readonly faults: readonly FaceFault[];
}
export interface SeenRow {
  readonly position: number;
  readonly width: number;
  readonly height: number;
  readonly engine: MeasuredFace | MeasuredRow;
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
  readonly said: Call;
  readonly marks: z.infer<typeof CallMark>[];
  readonly ms: number;
}

const SERIES = [
  's.id',
  's.class_id as classId',
  's.label',
  's.miss_weight as missWeight',
  's.seconds_each as secondsEach',
  's.made_at as madeAt',
];
const RUN = [
  'r.id',
  'r.series_id as seriesId',
  'r.person_id as personId',
  'p.name as personName',
  'r.started_at as startedAt',
  'r.finished_at as finishedAt',
  'r.attempt_id as attemptId',
];

export const callsStore = (db: Database) => ({
  ofClass: (classId: string): Promise<SeriesRow[]> =>
    db('call_series as s').select(SERIES).where({ 's.class_id': classId }).orderBy('s.made_at', 'desc'),
  byId: async (id: string): Promise<SeriesRow | null> =>
    (await db('call_series as s').select(SERIES).where({ 's.id': id }).first()) ?? null,
  items: (seriesIds: readonly string[]): Promise<ItemRow[]> =>
    db('call_items')
      .select(['series_id as seriesId', 'position', 'reference', 'faults'])
      .whereIn('series_id', seriesIds)
      .orderBy(['series_id', 'position']),
  runs: (seriesIds: readonly string[]): Promise<RunRow[]> =>
    db('call_runs as r')
      .join('people as p', 'p.id', 'r.person_id')
      .select(RUN)
      .whereIn('r.series_id', seriesIds)
      .orderBy('r.started_at'),
  run: async (id: string): Promise<RunRow | null> =>
    (await db('call_runs as r')
      .join('people as p', 'p.id', 'r.person_id')
      .select(RUN)
      .where('r.id', id)
      .first()) ?? null,
  runOf: async (seriesId: string, personId: string): Promise<RunRow | null> =>
    (await db('call_runs as r')
      .join('people as p', 'p.id', 'r.person_id')
      .select(RUN)
      .where({ 'r.series_id': seriesId, 'r.person_id': personId })
      .first()) ?? null,
  answers: (runIds: readonly string[]): Promise<AnswerRow[]> =>
    db('call_answers')
      .select(['run_id as runId', 'position', 'said', 'marks', 'ms'])
      .whereIn('run_id', runIds)
      .orderBy(['run_id', 'position']),

  /** Series of the classes that a person is in, or of all for the lead, with the person's own run. */
  forPerson: async ({ id, role }: Person): Promise<(Omit<OwnSeries, 'run'> & { runId: string | null })[]> => {
    const found = await db('call_series as s')
      .join('classes as c', 'c.id', 's.class_id')
      .leftJoin('call_runs as r', (on) => on.on('r.series_id', 's.id').andOnVal('r.person_id', id))
      .select([
        's.id',
        's.label',
        'c.name as className',
        's.seconds_each as secondsEach',
        'r.id as runId',
        db.raw('(select count(*)::int from call_items i where i.series_id = s.id) as faces'),
      ])
      .modify((query) => {
        if (role === 'lead') return;
        void query.whereIn(
          's.class_id',
          db('class_members').select('class_id').where({ person_id: id }).whereNull('left_at'),
        );
      })
      .orderBy('s.made_at', 'desc');
    return found as (Omit<OwnSeries, 'run'> & { runId: string | null })[];
  },

  /** What the engine saw on each face of a series, with the size of its picture. */
  seen: (seriesId: string): Promise<SeenRow[]> =>
    db('call_items as i')
      .join('faces as f', 'f.id', 'i.face_id')
      .select(['i.position', 'f.width', 'f.height', 'f.engine'])
      .where({ 'i.series_id': seriesId }),

  insert: async (
    series: Omit<SeriesRow, 'madeAt'> & { readonly madeBy: string },
    items: readonly (Omit<ItemRow, 'seriesId'> & { readonly faceId: string })[],
  ): Promise<boolean> => {
    await db('call_series').insert({
      id: series.id,
      class_id: series.classId,
      label: series.label,
      miss_weight: series.missWeight,
      seconds_each: series.secondsEach,
      made_by: series.madeBy,
    });
    await db('call_items').insert(
      items.map((item) => ({
        series_id: series.id,
        position: item.position,
        face_id: item.faceId,
        reference: item.reference,
        faults: item.faults,
      })),
    );
    return true;
  },
  insertRun: async (run: {
    id: string;
    seriesId: string;
    personId: string;
    startedAt: string;
  }): Promise<void> => {
    await db('call_runs')
      .insert({
        id: run.id,
        series_id: run.seriesId,
        person_id: run.personId,
        started_at: run.startedAt,
      })
      .onConflict(['series_id', 'person_id'])
      .ignore();
  },
  /** The run with its row locked until the transaction ends. */
  lockRun: async (id: string): Promise<boolean> =>
    (await db('call_runs').select('id').where({ id }).forUpdate().first()) !== undefined,
  /** False where the face was called already. */
  addAnswer: async (answer: AnswerRow): Promise<boolean> => {
    const made = await db('call_answers')
      .insert({
        run_id: answer.runId,
        position: answer.position,
        said: answer.said,
        marks: JSON.stringify(answer.marks),
        ms: answer.ms,
      })
      .onConflict(['run_id', 'position'])
      .ignore()
      .returning('position');
    return made.length === 1;
  },
  finish: async (id: string, at: string, attemptId: string | null): Promise<void> => {
    await db('call_runs').where({ id }).update({ finished_at: at, attempt_id: attemptId });
  },
  pictureAt: async (seriesId: string, position: number) =>
    (await db('call_items as i')
      .join('faces as f', 'f.id', 'i.face_id')
      .join('pictures as q', 'q.sha256', 'f.sha256')
      .select(['q.sha256', 'q.media_type as mediaType', 'q.bytes'])
      .where({ 'i.series_id': seriesId, 'i.position': position })
      .first<{ sha256: string; mediaType: string; bytes: Buffer | null } | undefined>()) ?? null,

  /** Faces of a class with their newest verdict, null when none was said. */
  facesGraded: (
    classId: string,
    faceIds: readonly string[],
  ): Promise<{ id: string; verdict: Call | null; faults: ItemRow['faults'] }[]> =>
    rowsOf(
      db,
      sql`select f.id, f.faults,
                 coalesce((select verdict from face_gradings g where g.face_id = f.id order by seq desc limit 1),
                          f.engine_verdict) as verdict
            from faces f where f.class_id = ${classId} and f.id = any(${faceIds}::uuid[])`,
    ),
});
