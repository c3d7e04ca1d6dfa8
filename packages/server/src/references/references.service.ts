import { levelOfText } from '@clear-mark/core';
import type { ClassReference, Person } from '@clear-mark/contract';
import { clockOffsetMs, corrected, heldBetween } from '../clock/index.ts';
import { classesStore, classForInstructor } from '../classes/index.ts';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { noticesStore } from '../notices/index.ts';
import { type NewReference, type ReferenceChange, referencesStore } from './references.store.ts';

export const referencesService = (db: Database) => {
  const store = referencesStore(db);
  return {
    add: async (classId: string, reference: NewReference, me: Person, now: Date): Promise<ClassReference> => {
      await classForInstructor(db, classId, me);
      levelOfText(reference.valueDbm);
      const offset = reference.sentAt === undefined ? 0 : clockOffsetMs(reference.sentAt, now);
      return createOnce(
        () =>
          db.transaction(async (trx) => {
            const inside = referencesStore(trx);
            if ((await inside.kindOfThing(classId, reference.instrumentId)) !== 'instrument') {
              throw new AppError('reference.not_instrument');
            }
            const began = await classesStore(trx).beganAt(classId);
            const held = heldBetween(corrected(reference.setAt, offset), began, now);
            await inside.insert(classId, me.id, { ...reference, setAt: held.at, claimedSetAt: held.claimed });
            return found(trx, classId, reference.id);
          }),
        () => store.byId(classId, reference.id),
        (there) =>
          there.instrumentId === reference.instrumentId &&
          there.valueDbm === reference.valueDbm &&
          there.wavelengthNm === reference.wavelengthNm &&
          there.method === reference.method &&
          (there.leg ?? null) === (reference.leg ?? null),
      );
    },

    /** Reads it again or voids it: added to what is known of it; signed attempts that rest on it are told. */
    change: async (
      classId: string,
      id: string,
      change: ReferenceChange,
      me: Person,
      now: Date,
    ): Promise<ClassReference> => {
      await classForInstructor(db, classId, me);
      if (change.change === 'reread') levelOfText(change.valueDbm);
      return oneAtATime(db, 'reference', id, async (trx) => {
        await found(trx, classId, id);
        const inside = referencesStore(trx);
        if (change.id === undefined || !(await inside.hasChange(id, change.id))) {
          await inside.change(id, change, me.id, now);
          const notices = noticesStore(trx);
          const cause = change.change === 'reread' ? 'reference_reread' : 'reference_void';
          await notices.raise(await notices.attemptsOnReference(id), cause, id, me.id, now);
        }
        return found(trx, classId, id);
      });
    },
  };
};

async function found(db: Database, classId: string, id: string): Promise<ClassReference> {
  const reference = await referencesStore(db).byId(classId, id);
  if (!reference) throw new AppError('not_found.reference');
  return reference;
}
