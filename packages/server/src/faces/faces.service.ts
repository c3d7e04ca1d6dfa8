import { createHash } from 'node:crypto';
import { MOST_PICTURE_BYTES } from '@clear-mark/contract';
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
  MOST_PIXELS,
  pictureHead,
  passProbability,
  pictureIsWhole,
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
import { classesStore, classForInstructor } from '../classes/index.ts';
import { heldBetween } from '../clock/index.ts';
import { createOnce } from '../database/create-once.ts';
import { noticesStore } from '../notices/index.ts';
import { type PictureStorage, wholePicture } from '../pictures/index.ts';
import type { Database } from '../database/database.ts';
import { FOREIGN_KEY_VIOLATION, sqlStateOf } from '../database/sql-state.ts';
import { AppError } from '../errors/app-error.ts';
import { type EngineSays, facesStore, type StoredPicture } from './faces.store.ts';

/** Pictures, and bytes of them, that one person may send in an hour. */
const MOST_AN_HOUR = 300;
const MOST_BYTES_AN_HOUR = 600_000_000;

/** The format by the head of a picture that is whole and of a size that can be decoded. Errors: `face.*`. */
export function mediaTypeOf(bytes: Buffer): 'image/png' | 'image/jpeg' {
  const head = pictureHead(bytes);
  if (head.kind === 'refused') {
    throw new AppError(head.why === 'format' ? 'face.not_a_picture' : 'face.bad_picture');
  }
  if (head.width * head.height > MOST_PIXELS) throw tooLarge();
  if (!pictureIsWhole(bytes)) throw new AppError('face.bad_picture');
  return head.kind === 'png' ? 'image/png' : 'image/jpeg';
}

/** The grade of the whole by the table, worked out here from the features; null where there is nothing to grade. */
export function engineVerdictOf(engine: MeasuredFace | MeasuredRow, table: FaceCriteria): Call | null {
  if (!engine.ok) return null;
  if ('features' in engine) return gradeFace(engine.features, table).verdict;
  return verdictOfRow(
    engine.fibers.map(({ face }) => (face.ok ? gradeFace(face.features, rowTable(table)).verdict : null)),
  );
}

/** The same with how probable a pass is. */
export const engineSays = (engine: MeasuredFace | MeasuredRow, table: FaceCriteria): EngineSays => ({
  verdict: engineVerdictOf(engine, table),
  chance: engine.ok && 'features' in engine ? passProbability(engine.features, table) : null,
});

export const facesService = (db: Database, storage: PictureStorage | null) => ({
  /** Whether this person may send a picture of this size now: asked before any of it is read. */
  mayPut: async (classId: string, size: number | null, me: Person): Promise<void> => {
    await classForInstructor(db, classId, me);
    if (size === null) throw new AppError('face.size_missing');
    if (size > MOST_PICTURE_BYTES) throw tooLarge();
    const { count, bytes } = await facesStore(db).sentLately(me.id);
    if (count >= MOST_AN_HOUR || bytes + size > MOST_BYTES_AN_HOUR) throw new AppError('face.too_many');
  },

  /** Takes the bytes of a picture under their digest, for one class. Errors: `face.*`. */
  putPicture: async (classId: string, sha256: string, bytes: Buffer, me: Person): Promise<void> => {
    const mediaType = mediaTypeOf(bytes);
    if (createHash('sha256').update(bytes).digest('hex') !== sha256) throw new AppError('face.other_digest');
    await db.transaction((trx) => facesStore(trx).putPicture(classId, sha256, mediaType, bytes, me.id));
  },

  picture: async (classId: string, faceId: string, me: Person): Promise<StoredPicture> => {
    await classForInstructor(db, classId, me);
    const found = await facesStore(db).picture(classId, faceId);
    if (!found) throw new AppError('not_found.face');
    return { mediaType: found.mediaType, bytes: await wholePicture(storage, found) };
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
  add: async (classId: string, face: NewFaceBody, me: Person, now: Date): Promise<FaceDocument> => {
    await classForInstructor(db, classId, me);
    return addFace(db, classId, face, me, now);
  },

  /** The instructor's look at it: the verdict is worked out here, from the review, by the table it was graded by. */
  grade: async (
    classId: string,
    faceId: string,
    body: z.infer<typeof FaceGradingBody>,
    me: Person,
    now: Date,
  ): Promise<FaceGrading> => {
    await classForInstructor(db, classId, me);
    return db.transaction(async (trx) => {
      const face = await documentOf(trx, classId, faceId);
      const verdict = verdictAfter(face, body.review);
      const added = await facesStore(trx).addGrading(faceId, { ...body, verdict }, me.id, now);
      // A signed attempt rests on what was seen then: what is seen otherwise now is told, and moves nothing.
      if (added && face.attemptId !== null) {
        await noticesStore(trx).raise([face.attemptId], 'face_graded', faceId, me.id, now);
      }
      const kept = await facesStore(trx).grading(faceId, body.id);
      if (!kept) throw new AppError('request.already_there');
      if (kept.verdict !== verdict || kept.traineeSaid !== body.traineeSaid)
        throw new AppError('face.other_content');
      return (await facesStore(trx).newestGrading(faceId))!;
    });
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

async function addFace(
  db: Database,
  classId: string,
  face: NewFaceBody,
  me: Person,
  now: Date,
): Promise<FaceDocument> {
  return createOnce(
    () =>
      db.transaction(async (trx) => {
        const store = facesStore(trx);
        const size = await store.pictureSize(classId, face.sha256);
        if (!size) throw new AppError('face.no_picture');
        if (size.width !== face.width || size.height !== face.height) throw new AppError('face.wrong_size');
        const known = await store.byId(classId, face.id);
        const taken = heldBetween(face.takenAt, await classesStore(trx).beganAt(classId), now);
        // Under the attempt's lock: nobody signs between the look and the picture. What is there already is no news.
        if (face.attemptId !== null && !known) await lockOpenAttempt(trx, classId, face.attemptId);
        try {
          await store.insert(classId, face, taken, engineSays(face.engine, face.table), me.id);
        } catch (error) {
          if (sqlStateOf(error) === FOREIGN_KEY_VIOLATION) throw new AppError('not_found.face');
          throw error;
        }
        return documentOf(trx, classId, face.id);
      }),
    () => facesStore(db).byId(classId, face.id),
    (kept) => kept.label === face.label && kept.attemptId === face.attemptId && kept.width === face.width,
  );
}

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

async function lockOpenAttempt(trx: Database, classId: string, attemptId: string): Promise<void> {
  const state = await facesStore(trx).lockAttempt(classId, attemptId);
  if (state === null) throw new AppError('face.attempt_not_in_class');
  if (state !== 'open') throw new AppError('face.attempt_signed');
}

const tooLarge = (): AppError =>
  new AppError('face.too_large', {
    megabytes: MOST_PICTURE_BYTES / 1e6,
    megapixels: MOST_PIXELS / 1e6,
  });
