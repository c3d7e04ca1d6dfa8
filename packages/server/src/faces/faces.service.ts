import { createHash } from 'node:crypto';
import type {
  FaceDocument,
  FaceGrading,
  FaceGradingBody,
  FaceTable,
  FaceTableBody,
  NewFaceBody,
  Person,
} from '@clear-mark/contract';
import {
  type Call,
  checkReview,
  type FaceCriteria,
  type FaceReview,
  gradeFace,
  type MeasuredFace,
  type MeasuredRow,
  reviewFace,
  rowTable,
  verdictOfRow,
} from '@clear-mark/core';
import type { z } from 'zod';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { FOREIGN_KEY_VIOLATION, sqlStateOf } from '../database/sql-state.ts';
import { AppError } from '../http/app-error.ts';
import { facesStore } from './faces.store.ts';

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
const JPEG = Buffer.from([0xff, 0xd8, 0xff]);

/** The format that the first bytes say; null for any other. */
export const mediaTypeOf = (bytes: Buffer): string | null =>
  bytes.subarray(0, 8).equals(PNG) ? 'image/png' : bytes.subarray(0, 3).equals(JPEG) ? 'image/jpeg' : null;

/** The grade of the whole by the table, worked out here from the features; null where there is nothing to grade. */
export function engineVerdictOf(engine: MeasuredFace | MeasuredRow, table: FaceCriteria): Call | null {
  if (!engine.ok) return null;
  if ('features' in engine) return gradeFace(engine.features, table).verdict;
  return verdictOfRow(
    engine.fibers.map(({ face }) => (face.ok ? gradeFace(face.features, rowTable(table)).verdict : null)),
  );
}

export const facesService = (db: Database) => ({
  /** Takes the bytes of a picture under their digest. Errors: `face.not_a_picture`, `face.other_digest`. */
  putPicture: async (classId: string, sha256: string, bytes: Buffer, me: Person): Promise<void> => {
    await classForInstructor(db, classId, me);
    const mediaType = mediaTypeOf(bytes);
    if (mediaType === null) throw new AppError('face.not_a_picture');
    if (createHash('sha256').update(bytes).digest('hex') !== sha256) throw new AppError('face.other_digest');
    await facesStore(db).putPicture(sha256, mediaType, bytes);
  },

  picture: async (classId: string, faceId: string, me: Person) => {
    await classForInstructor(db, classId, me);
    const found = await facesStore(db).picture(classId, faceId);
    if (!found) throw new AppError('not_found.face');
    return found;
  },

  list: async (classId: string, attemptId: string | null, me: Person) => {
    await classForInstructor(db, classId, me);
    return facesStore(db).list(classId, attemptId);
  },

  document: async (classId: string, id: string, me: Person): Promise<FaceDocument> => {
    await classForInstructor(db, classId, me);
    return documentOf(db, classId, id);
  },

  /** Keeps a measured picture. Sent again under its id it is no harm and changes nothing. */
  add: async (classId: string, face: NewFaceBody, me: Person): Promise<FaceDocument> => {
    await classForInstructor(db, classId, me);
    const store = facesStore(db);
    if (!(await store.hasPicture(face.sha256))) throw new AppError('face.no_picture');
    if (face.attemptId !== null) await requireOpenAttempt(db, classId, face.attemptId);
    try {
      await store.insert(classId, face, engineVerdictOf(face.engine, face.table), me.id);
    } catch (error) {
      if (sqlStateOf(error) === FOREIGN_KEY_VIOLATION) throw new AppError('not_found.face');
      throw error;
    }
    return documentOf(db, classId, face.id);
  },

  /** The instructor's look at it: the verdict is worked out here, from the review, by the table it was graded by. */
  grade: async (
    classId: string,
    faceId: string,
    body: z.infer<typeof FaceGradingBody>,
    me: Person,
  ): Promise<FaceGrading> => {
    await classForInstructor(db, classId, me);
    const face = await documentOf(db, classId, faceId);
    const verdict = verdictAfter(face, body.review);
    await db.transaction((trx) => facesStore(trx).addGrading(faceId, { ...body, verdict }, me.id));
    return (await facesStore(db).newestGrading(faceId))!;
  },

  tables: async (classId: string, me: Person): Promise<FaceTable[]> => {
    await classForInstructor(db, classId, me);
    return facesStore(db).tables(classId);
  },
  saveTable: async (classId: string, body: z.infer<typeof FaceTableBody>, me: Person): Promise<FaceTable> => {
    await classForInstructor(db, classId, me);
    return db.transaction((trx) => facesStore(trx).addTable(classId, body, me.id));
  },
});

async function documentOf(db: Database, classId: string, id: string): Promise<FaceDocument> {
  const found = await facesStore(db).byId(classId, id);
  if (!found) throw new AppError('not_found.face');
  return found;
}

function verdictAfter({ engine, table }: FaceDocument, review: FaceReview): Call | null {
  if (engine.ok && 'features' in engine) return reviewFace(engine.features, review, table).verdict;
  // A row and a refused picture have no list to review: only the instructor's own word can be added.
  checkReview(0, review);
  return review.verdict?.says ?? engineVerdictOf(engine, table);
}

async function requireOpenAttempt(db: Database, classId: string, attemptId: string): Promise<void> {
  const attempt = await db('attempts')
    .select('state')
    .where({ id: attemptId, class_id: classId })
    .first<{ state: string } | undefined>();
  if (!attempt) throw new AppError('face.attempt_not_in_class');
  if (attempt.state === 'signed') throw new AppError('face.attempt_signed');
}
