import { CORD_LOSS_DB, readTyped } from '@clear-mark/core';
import type { NewCordCheckBody, Person, Thing } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { classForInstructor } from './access.ts';
import { cordChecksStore } from './cord-checks.store.ts';

export const cordChecksService = (db: Database) => ({
  /** Added to the checks of a test cord; what was read with it before stays as it was judged. */
  add: (classId: string, thingId: string, check: NewCordCheckBody, me: Person, now: Date): Promise<Thing> =>
    oneAtATime(db, 'class', classId, async (trx) => {
      await classForInstructor(trx, classId, me);
      const store = cordChecksStore(trx);
      const thing = await store.thing(classId, thingId);
      if (!thing) throw new AppError('not_found.thing');
      if (thing.kind !== 'cord') throw new AppError('cord.wrong_thing', { label: thing.label });
      requireGoodCheck(check);
      await store.insert(classId, thingId, check, me.id, now);
      return (await store.thing(classId, thingId))!;
    }),
});

/** Errors: `cord.days_crossed`, `cord.bad_loss`. */
function requireGoodCheck(check: NewCordCheckBody): void {
  if (check.dueOn < check.checkedOn) throw new AppError('cord.days_crossed');
  for (const [text, least] of [
    [check.lossDb, CORD_LOSS_DB.least],
    [check.limitDb, 0],
  ] as const) {
    if (readTyped(text, { least, most: CORD_LOSS_DB.most }).kind !== 'number') {
      throw new AppError('cord.bad_loss', { text, most: CORD_LOSS_DB.most });
    }
  }
}
