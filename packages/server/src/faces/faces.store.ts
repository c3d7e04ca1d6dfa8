import type {
  FaceDocument,
  FaceGrading,
  FaceRow,
  FaceTable,
  FaceTableBody,
  NewFaceBody,
} from '@clear-mark/contract';
import { type Call, type FaceReview, pictureHead } from '@clear-mark/core';
import type { z } from 'zod';
import type { Held } from '../clock/index.ts';
import { lockThing } from '../database/locks.ts';
import type { Database } from '../database/database.ts';

/** What the engine makes of a picture by its table. */
export interface EngineSays {
  readonly verdict: Call | null;
  /** Probability of a pass, 0 to 1; null for a row and for what was not graded. */
  readonly chance: number | null;
}

/** A row of the list; the newest grading stands beside the engine's verdict. */
const ROW = (db: Database) => [
  'f.id',
  'f.label',
  'f.view',
  'f.source',
  'f.taken_at as takenAt',
  'p.name as takenBy',
  'f.attempt_id as attemptId',
  'f.trainee_id as traineeId',
  't.name as traineeName',
  'i.label as pieceLabel',
  'f.before_id as beforeId',
  db.raw(`f.criteria ->> 'id' as "tableId"`),
  'f.engine_verdict as engineVerdict',
  'f.pass_probability as chance',
  db.raw('coalesce(g.verdict, f.engine_verdict) as verdict'),
  'g.trainee_said as traineeSaid',
  'f.faults',
];

const NEWEST = `left join lateral (
  select id, review, trainee_said, verdict, by, at from face_gradings
  where face_id = f.id order by seq desc limit 1) g on true`;

export interface StoredPicture {
  readonly mediaType: string;
  readonly bytes: Buffer;
}
/** As the table has it: no bytes where they lie in the store. */
export interface PictureRow {
  readonly sha256: string;
  readonly mediaType: string;
  readonly bytes: Buffer | null;
}

export const facesStore = (db: Database) => {
  const rows = (classId: string) =>
    db('faces as f')
      .joinRaw(NEWEST)
      .join('people as p', 'p.id', 'f.taken_by')
      .leftJoin('people as t', 't.id', 'f.trainee_id')
      .leftJoin('attempts as a', 'a.id', 'f.attempt_id')
      .leftJoin('pieces as i', 'i.id', 'a.piece_id')
      .where('f.class_id', classId);
  return {
    /** The bytes once for all; that this class has them, for each class by itself. */
    putPicture: async (
      classId: string,
      sha256: string,
      mediaType: string,
      bytes: Buffer,
      by: string,
    ): Promise<void> => {
      await db('pictures')
        .insert({ sha256, media_type: mediaType, bytes })
        .onConflict('sha256')
        // One that was erased and is sent again is there again.
        .merge({ media_type: mediaType, bytes, erased_at: null, stored_at: null })
        .whereNotNull('pictures.erased_at');
      await db('picture_uploads')
        .insert({ class_id: classId, sha256, by, bytes: bytes.length })
        .onConflict(['class_id', 'sha256'])
        .ignore();
    },
    /** Width and height by the head of the picture, when it was sent to this class. */
    pictureSize: async (
      classId: string,
      sha256: string,
    ): Promise<{ width: number; height: number } | null> => {
      const row = await db('picture_uploads as u')
        .join('pictures as q', 'q.sha256', 'u.sha256')
        .select(['q.width', 'q.height', db.raw('substring(q.bytes from 1 for 200000) as head')])
        .where({ 'u.class_id': classId, 'u.sha256': sha256 })
        .first<{ head: Buffer | null; width: number; height: number } | undefined>();
      if (row && !row.head) return { width: row.width, height: row.height };
      const head = row?.head ? pictureHead(row.head) : null;
      return head && head.kind !== 'refused' ? { width: head.width, height: head.height } : null;
    },
    sentLately: async (by: string): Promise<{ count: number; bytes: number }> =>
      (
        await db.raw(
          `select count(*)::int as count, coalesce(sum(bytes), 0)::bigint as bytes from picture_uploads
            where by = ? and at > now() - interval '1 hour'`,
          [by],
        )
      ).rows[0],
    /** Pictures that no face came to use: sent and given up. */
    dropOrphans: async (): Promise<number> => {
      const { rowCount } = (await db.raw(
        `delete from pictures q where received_at < now() - interval '1 day'
           and not exists (select 1 from faces f where f.sha256 = q.sha256)
           and not exists (select 1 from measured_pictures m where m.sha256 = q.sha256)`,
      )) as { rowCount: number };
      return rowCount;
    },
    picture: async (classId: string, faceId: string): Promise<PictureRow | null> =>
      (await db('faces as f')
        .join('pictures as q', 'q.sha256', 'f.sha256')
        .select(['q.sha256', 'q.media_type as mediaType', 'q.bytes'])
        .where({ 'f.class_id': classId, 'f.id': faceId })
        .first<PictureRow | undefined>()) ?? null,

    list: (classId: string, attemptId: string | null): Promise<FaceRow[]> =>
      rows(classId)
        .select(ROW(db))
        .modify((query) => {
          if (attemptId !== null) void query.where('f.attempt_id', attemptId);
        })
        .orderBy([
          { column: 'f.taken_at', order: 'desc' },
          { column: 'f.id', order: 'desc' },
        ])
        .limit(500) as unknown as Promise<FaceRow[]>,

    byId: async (classId: string, id: string): Promise<FaceDocument | null> => {
      const row = await rows(classId)
        .leftJoin('people as b', 'b.id', 'g.by')
        .select([
          ...ROW(db),
          'f.width',
          'f.height',
          'f.criteria as table',
          'f.engine',
          db.raw(`case when g.id is null then null else jsonb_build_object('id', g.id, 'review', g.review,
            'traineeSaid', g.trainee_said, 'verdict', g.verdict, 'by', b.name, 'at', g.at) end as grading`),
        ])
        .where('f.id', id)
        .first();
      return (row as FaceDocument | undefined) ?? null;
    },

    insert: async (
      classId: string,
      face: NewFaceBody,
      taken: Held,
      engine: EngineSays,
      by: string,
    ): Promise<void> => {
      await db('faces').insert({
        id: face.id,
        class_id: classId,
        sha256: face.sha256,
        label: face.label,
        width: face.width,
        height: face.height,
        view: face.view,
        source: face.source,
        attempt_id: face.attemptId,
        trainee_id: face.traineeId,
        before_id: face.beforeId,
        criteria: JSON.stringify(face.table),
        engine: JSON.stringify(face.engine),
        engine_verdict: engine.verdict,
        pass_probability: engine.chance,
        faults: face.faults,
        taken_at: taken.at,
        claimed_taken_at: taken.claimed,
        taken_by: by,
      });
    },

    addGrading: async (
      faceId: string,
      grading: { id: string; review: FaceReview; traineeSaid: Call | null; verdict: Call | null },
      by: string,
      at: Date,
    ): Promise<boolean> => {
      // Two looks at one face at once follow each other.
      await lockThing(db, 'face', faceId);
      const { rowCount } = await db.raw(
        `insert into face_gradings (id, face_id, seq, review, trainee_said, verdict, by, at)
         select ?, ?, coalesce(max(seq), 0) + 1, ?::jsonb, ?, ?, ?, ? from face_gradings where face_id = ?
         on conflict (id) do nothing`,
        [
          grading.id,
          faceId,
          JSON.stringify(grading.review),
          grading.traineeSaid,
          grading.verdict,
          by,
          at,
          faceId,
        ],
      );
      return rowCount === 1;
    },
    grading: async (
      faceId: string,
      id: string,
    ): Promise<Pick<FaceGrading, 'verdict' | 'traineeSaid'> | null> =>
      (await db('face_gradings')
        .select(['verdict', 'trainee_said as traineeSaid'])
        .where({ id, face_id: faceId })
        .first()) ?? null,

    newestGrading: async (faceId: string): Promise<FaceGrading | null> =>
      (await db('face_gradings as g')
        .join('people as p', 'p.id', 'g.by')
        .select(['g.id', 'g.review', 'g.trainee_said as traineeSaid', 'g.verdict', 'p.name as by', 'g.at'])
        .where('g.face_id', faceId)
        .orderBy('g.seq', 'desc')
        .first<FaceGrading | undefined>()) ?? null,

    /** The newest version of each table of the class. */
    tables: async (classId: string): Promise<FaceTable[]> => {
      const found = await db('face_tables')
        .distinctOn('base')
        .select(['base', 'version', 'body'])
        .where({ class_id: classId })
        .orderBy([{ column: 'base' }, { column: 'version', order: 'desc' }]);
      return (found as { base: string; version: number; body: Omit<FaceTable, 'id' | 'version'> }[]).map(
        ({ base, version, body }) => ({ ...body, id: `class/${base}`, version }),
      );
    },
    addTable: async (
      classId: string,
      { base, ...body }: z.infer<typeof FaceTableBody>,
      by: string,
    ): Promise<FaceTable> => {
      await db('classes').select('id').where({ id: classId }).forUpdate();
      const [last] = await db('face_tables')
        .where({ class_id: classId, base })
        .max<{ max: number | null }[]>('version');
      const version = (last?.max ?? 0) + 1;
      await db('face_tables').insert({
        class_id: classId,
        base,
        version,
        body: JSON.stringify(body),
        made_by: by,
      });
      return { ...body, id: `class/${base}`, version };
    },
    /** The state of an attempt of the class, held until the end of the transaction; null when there is none such. */
    lockAttempt: async (classId: string, attemptId: string): Promise<string | null> => {
      const [attempt] = await db('attempts')
        .select('state')
        .where({ id: attemptId, class_id: classId })
        .forUpdate();
      return attempt?.state ?? null;
    },
  };
};
