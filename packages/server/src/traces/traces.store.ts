import type { TraceAbout, TraceRow } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

/** A trace that is kept, with what its file says. */
export interface NewTrace {
  readonly id: string;
  readonly classId: string;
  readonly sha256: string;
  readonly bytes: Buffer;
  readonly about: TraceAbout;
  readonly source: TraceRow['source'];
  readonly wavelengthNm: number;
  readonly pulseNs: number;
  readonly points: number;
  readonly takenAt: Date;
  readonly takenBy: string;
}

const columnsOf = (about: TraceAbout) => ({
  label: about.label,
  link_id: about.linkId,
  fiber: about.fiber,
  direction: about.direction,
  launch_m: about.launchM,
  receive_m: about.receiveM,
  attempt_id: about.attemptId,
});

const MOST_LISTED = 500;

export const tracesStore = (db: Database) => {
  const rows = (classId: string) =>
    db('traces as t')
      .join('people as p', 'p.id', 't.taken_by')
      .leftJoin('links as l', 'l.id', 't.link_id')
      .leftJoin('attempts as a', 'a.id', 't.attempt_id')
      .leftJoin('people as w', 'w.id', 'a.trainee_id')
      .leftJoin('pieces as i', 'i.id', 'a.piece_id')
      .select([
        't.id',
        't.label',
        't.link_id as linkId',
        't.fiber',
        't.direction',
        't.launch_m as launchM',
        't.receive_m as receiveM',
        't.attempt_id as attemptId',
        't.source',
        't.wavelength_nm as wavelengthNm',
        't.pulse_ns as pulseNs',
        't.points',
        't.taken_at as takenAt',
        'p.name as takenBy',
        'l.label as linkLabel',
        'w.name as traineeName',
        'i.label as pieceLabel',
      ])
      .where('t.class_id', classId);
  return {
    list: (classId: string): Promise<TraceRow[]> =>
      rows(classId)
        .orderBy([
          { column: 't.taken_at', order: 'desc' },
          { column: 't.id', order: 'desc' },
        ])
        .limit(MOST_LISTED) as unknown as Promise<TraceRow[]>,
    byId: async (classId: string, id: string): Promise<TraceRow | null> =>
      ((await rows(classId).where('t.id', id).first()) as TraceRow | undefined) ?? null,
    file: async (classId: string, id: string): Promise<{ sha256: string; bytes: Buffer } | null> =>
      (await db('traces').select(['sha256', 'bytes']).where({ class_id: classId, id }).first()) ?? null,
    /** Files of several traces of a class, in no order. */
    files: (classId: string, ids: readonly string[]): Promise<{ id: string; bytes: Buffer }[]> =>
      rowsOf(db, sql`select id, bytes from traces where class_id = ${classId} and id = any(${ids}::uuid[])`),
    insert: async (trace: NewTrace): Promise<void> => {
      await db('traces').insert({
        id: trace.id,
        class_id: trace.classId,
        sha256: trace.sha256,
        bytes: trace.bytes,
        ...columnsOf(trace.about),
        source: trace.source,
        wavelength_nm: trace.wavelengthNm,
        pulse_ns: trace.pulseNs,
        points: trace.points,
        taken_at: trace.takenAt,
        taken_by: trace.takenBy,
      });
    },
    describe: async (classId: string, id: string, about: TraceAbout): Promise<boolean> =>
      (await db('traces').where({ class_id: classId, id }).update(columnsOf(about))) === 1,
    takenLately: async (by: string): Promise<number> => {
      const [row] = await rowsOf<{ n: number }>(
        db,
        sql`select count(*)::int as n from traces where taken_by = ${by} and taken_at > now() - interval '1 hour'`,
      );
      return row!.n;
    },
    hasLink: async (classId: string, id: string): Promise<boolean> =>
      (await db('links').select('id').where({ class_id: classId, id }).first()) !== undefined,
    /** The state of an attempt of the class, held until the end of the transaction; null when there is none such. */
    lockAttempt: async (classId: string, id: string): Promise<string | null> => {
      const found = await db('attempts').select('state').where({ class_id: classId, id }).forUpdate().first();
      return (found?.state as string | undefined) ?? null;
    },
  };
};
