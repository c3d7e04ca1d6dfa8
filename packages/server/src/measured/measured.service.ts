import { angleOfLine, type Criterion } from '@clear-mark/core';
import type { MeasuredPicture, NewMeasuredPictureBody, Person } from '@clear-mark/contract';
import { attemptsStore } from '../attempts/index.ts';
import { classesStore, classForInstructor } from '../classes/index.ts';
import { heldBetween } from '../clock/index.ts';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { facesStore, type StoredPicture } from '../faces/index.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { type PictureStorage, wholePicture } from '../pictures/index.ts';
import { measuredStore } from './measured.store.ts';

/** Digits of a value may be rounded by this much, degrees and mm. */
const ROUNDED = 0.006;

/** Pictures that values of a sheet were measured in. */
export const measuredService = (db: Database, storage: PictureStorage | null) => ({
  list: async (classId: string, attemptId: string, me: Person): Promise<MeasuredPicture[]> => {
    await classForInstructor(db, classId, me);
    await ofClass(db, classId, attemptId);
    return measuredStore(db).list(attemptId);
  },

  picture: async (classId: string, id: string, me: Person): Promise<StoredPicture> => {
    await classForInstructor(db, classId, me);
    const found = await measuredStore(db).picture(classId, id);
    if (!found) throw new AppError('not_found.face');
    return { mediaType: found.mediaType, bytes: await wholePicture(storage, found) };
  },

  /** Keeps a picture with what was found in it, and the value that comes of that. Sent again it is the same. */
  add: async (
    classId: string,
    attemptId: string,
    body: NewMeasuredPictureBody,
    me: Person,
    now: Date,
  ): Promise<MeasuredPicture> => {
    await classForInstructor(db, classId, me);
    refuseOtherValue(body);
    return createOnce(
      () =>
        db.transaction(async (trx) => {
          const attempt = await ofClass(trx, classId, attemptId);
          const { steps } = await sheetOfAttempt(trx, attempt);
          const criterion = steps.flatMap((s) => s.criteria).find((c) => c.id === body.criterionId);
          if (!criterion || !isFor(criterion, body))
            throw new AppError('entry.unknown_criterion', { criterion: body.criterionId });
          const faces = facesStore(trx);
          const size = await faces.pictureSize(classId, body.sha256);
          if (!size) throw new AppError('face.no_picture');
          if (!isOfSize(size, body)) throw new AppError('face.wrong_size');
          // Under the attempt's lock: nobody signs between the look and the picture.
          const known = await measuredStore(trx).byId(classId, body.id);
          const state = await faces.lockAttempt(classId, attemptId);
          if (!known && state !== 'open') throw new AppError('face.attempt_signed');
          const { at: takenAt } = heldBetween(body.takenAt, await classesStore(trx).beganAt(classId), now);
          await measuredStore(trx).insert(classId, attemptId, { ...body, takenAt }, me.id);
          return (await measuredStore(trx).byId(classId, body.id))!;
        }),
      () => measuredStore(db).byId(classId, body.id),
      (kept) =>
        kept.sha256 === body.sha256 && kept.value === body.value && kept.criterionId === body.criterionId,
    );
  },
});

async function ofClass(db: Database, classId: string, attemptId: string) {
  const attempt = await attemptsStore(db).byId(attemptId);
  if (attempt?.classId !== classId) throw new AppError('not_found.attempt');
  return attempt;
}

/** A joint gives a level of its criterion, all others a length or an angle. */
const isFor = (criterion: Criterion, body: NewMeasuredPictureBody): boolean =>
  body.kind === 'splice'
    ? criterion.kind === 'grade' && criterion.levels.some((l) => l.id === body.level)
    : criterion.kind === 'measure';

/** A camera may hold its picture on its side and say so: it is measured upright. */
const isOfSize = (
  a: { readonly width: number; readonly height: number },
  b: { readonly width: number; readonly height: number },
): boolean =>
  (a.width === b.width && a.height === b.height) || (a.width === b.height && a.height === b.width);

/** The value has to be what the lines give: the engine's, or what somebody dragged. */
function refuseOtherValue(body: NewMeasuredPictureBody): void {
  const found = foundIn(body);
  const given = Number(body.value.replace(',', '.'));
  if (found === null || Math.abs(found - given) > ROUNDED)
    throw new AppError('measured.other_value', { value: found === null ? 'none' : found.toFixed(2) });
}

/** The angle without its sign, the length, or the loss; the face as it was dragged against the engine's axis. */
function foundIn(body: NewMeasuredPictureBody): number | null {
  if (body.kind === 'end')
    return body.reading.ok ? (body.dragged ?? body.reading[body.layer]?.mm ?? null) : null;
  if (body.kind === 'splice') return body.reading.ok ? body.reading.lossDb.value : null;
  const { reading, side, dragged } = body;
  const end = reading.ok ? reading.ends.find((e) => e.side === side) : undefined;
  const angle = end && (dragged ? angleOfLine(dragged, end.axis, side) : end.angleDeg);
  return angle === undefined || angle === null ? null : Math.abs(angle);
}
