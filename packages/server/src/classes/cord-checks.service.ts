import { readTyped } from '@clear-mark/core';
import type { NewCordCheckBody, Person, Thing } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { classForInstructor } from './access.ts';
import { cordChecksStore } from './cord-checks.store.ts';

/** More than this between two connectors of a test cord is a slip of the decimal point; dB. House. */
const MOST_DB = 10;

export const cordChecksService = (db: Database) => ({
  /** Added to the checks of a test cord; what was read with it before stays as it was judged. */
  add: async (
    classId: string,
    thingId: string,
    check: NewCordCheckBody,
    me: Person,
    now: Date,
  ): Promise<Thing> => {
    await classForInstructor(db, classId, me);
    const store = cordChecksStore(db);
    const thing = await store.thing(classId, thingId);
    if (!thing) throw new AppError('not_found.thing');
    if (thing.kind !== 'cord') throw new AppError('cord.wrong_thing', { label: thing.label });
    if (check.dueOn < check.checkedOn) throw new AppError('cord.days_crossed');
    for (const [text, least] of [
      [check.lossDb, -MOST_DB],
      [check.limitDb, 0],
    ] as const) {
      if (readTyped(text, { least, most: MOST_DB }).kind !== 'number') {
        throw new AppError('cord.bad_loss', { text, most: MOST_DB });
      }
    }
    await store.insert(classId, thingId, check, me.id, now);
    return (await store.thing(classId, thingId))!;
  },
});
