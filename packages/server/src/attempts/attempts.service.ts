import type { AttemptChanges, AttemptDocument, Person } from '@clear-mark/contract';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { referencesStore } from '../references/index.ts';
import { type AttemptRow, attemptsStore } from './attempts.store.ts';
import { entriesStore } from './entries.store.ts';

/** How far back a reference is offered for a reading; older ones would be void anyway. */
const REFERENCE_HOURS = 12;

/**
 * Whether this person may see an attempt: instructors of its class, the lead, and the trainee whose it is.
 * Error: `auth.not_in_class`.
 */
export async function requireSight(db: Database, attempt: AttemptRow, me: Person): Promise<void> {
  if (attempt.traineeId === me.id) return;
  await classForInstructor(db, attempt.classId, me);
}

/** An attempt that this person may see, with its row locked. Errors: `not_found.attempt`, `auth.not_in_class`. */
async function lockedInSight(trx: Database, attemptId: string, me: Person): Promise<AttemptRow> {
  const row = await attemptsStore(trx).lock(attemptId);
  if (!row) throw new AppError('not_found.attempt');
  await requireSight(trx, row, me);
  return row;
}

export const attemptsService = (db: Database) => ({
  /** Takes back an attempt that was started and never used. It stays as withdrawn and counts nowhere. */
  withdraw: (attemptId: string, me: Person, now: Date): Promise<void> =>
    db.transaction(async (trx) => {
      const row = await lockedInSight(trx, attemptId, me);
      if (row.state === 'signed') throw new AppError('attempt.signed');
      if (row.state === 'withdrawn') return;
      if (!(await attemptsStore(trx).withdraw(attemptId, me.id, now)))
        throw new AppError('attempt.not_empty');
    }),

  /** The author stands by entries of an attempt that another person handed in. */
  confirm: (attemptId: string, entryIds: readonly string[], me: Person, now: Date): Promise<void> =>
    db.transaction(async (trx) => {
      await lockedInSight(trx, attemptId, me);
      const entries = entriesStore(trx);
      if (!(await entries.areOf(attemptId, entryIds, me.id))) throw new AppError('entry.confirm_own');
      await entries.confirm(entryIds, me.id, now);
    }),

  /** Entries after a sequence number, and whether the attempt is signed by now: for a sheet that is open. */
  changes: async (attemptId: string, after: number, me: Person, now: Date): Promise<AttemptChanges> => {
    const store = attemptsStore(db);
    const row = await store.byId(attemptId);
    if (!row) throw new AppError('not_found.attempt');
    await requireSight(db, row, me);
    const entries = await store.entriesAfter([{ id: attemptId, after }]);
    return {
      now: now.toISOString(),
      state: row.state,
      entries: entries.get(attemptId) ?? [],
      references: await referencesStore(db).forAttempt(row.classId, attemptId, REFERENCE_HOURS),
    };
  },

  document: async (attemptId: string, me: Person): Promise<AttemptDocument> => {
    const store = attemptsStore(db);
    const row = await store.byId(attemptId);
    if (!row) throw new AppError('not_found.attempt');
    await requireSight(db, row, me);
    const sheet = await sheetOfAttempt(db, row);
    const [attempt, entries, references, revisions, late, summary, notices] = await Promise.all([
      store.head(attemptId),
      store.entries(attemptId),
      referencesStore(db).forAttempt(row.classId, attemptId, REFERENCE_HOURS),
      store.revisions(attemptId),
      store.late(attemptId),
      classesStore(db).byId(row.classId),
      store.notices(attemptId),
    ]);
    return {
      attempt: attempt!,
      sheet,
      policy: summary!.policy,
      timeZone: summary!.timeZone,
      entries,
      references,
      revisions,
      late,
      notices,
    };
  },
});
