import { type EntryBatchBody, type Person, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import type { ReadingStamps } from '../stamps/index.ts';
import { amendService } from './amend.service.ts';
import { attemptsService } from './attempts.service.ts';
import { entriesService } from './entries.service.ts';
import { signService } from './sign.service.ts';
import { startService } from './start.service.ts';
import { todayService } from './today.service.ts';

/** Adds the routes; gives the way in for entries, which is also gone without the router. */
export function attemptRoutes(router: Router, db: Database, now: () => Date, stamps: ReadingStamps) {
  const attempts = attemptsService(db);
  const entries = entriesService(db, now, stamps);
  const signing = signService(db);
  const today = todayService(db);
  handle(router, ROUTES.catchUp, ({ params, body, me }) =>
    today.catchUp(params.id, body.known, body.afresh ?? false, me, now()),
  );
  handle(router, ROUTES.attemptChanges, ({ params, query, me }) =>
    attempts.changes(params.id, query.after, me, now()),
  );
  handle(router, ROUTES.ownBench, ({ me }) => today.ownBench(me, now()));
  handle(router, ROUTES.startAttempt, async ({ params, body, me }) => {
    await startService(db).start(params.id, body, me, now());
    return { attemptId: body.id };
  });
  handle(router, ROUTES.attempt, ({ params, me }) => attempts.document(params.id, me));
  const takeEntries = async (me: Person, body: EntryBatchBody) => ({
    receipts: await entries.take(body.entries, body.sentAt, me),
  });
  handle(router, ROUTES.sendEntries, ({ body, me }) => takeEntries(me, body));
  handle(router, ROUTES.confirmEntries, async ({ params, body, me }) => {
    await attempts.confirm(params.id, body.entryIds, me, now());
    return { done: true } as const;
  });
  handle(router, ROUTES.withdrawAttempt, async ({ params, me }) => {
    await attempts.withdraw(params.id, me, now());
    return { done: true } as const;
  });
  handle(router, ROUTES.sign, ({ params, body, me }) => signing.sign(params.id, body, me, now()));
  const amending = amendService(db, now, stamps);
  handle(router, ROUTES.amend, ({ params, body, me }) => amending.amend(params.id, body, me));
  return takeEntries;
}
