import type { Database } from '../database/database.ts';
import { insertRows } from '../database/insert-rows.ts';
import { rowsOf, sql } from '../database/sql.ts';

export const amendStore = (db: Database) => ({
  newestRevision: async (attemptId: string): Promise<number> => {
    const [row] = await rowsOf<{ revision: number }>(
      db,
      sql`select max(revision) as revision from signed_revisions where attempt_id = ${attemptId}`,
    );
    return row!.revision;
  },
  /** Until the end of the transaction the attempt takes entries although it is signed. */
  begin: async (attemptId: string): Promise<void> => {
    await rowsOf(db, sql`select set_config('clear_mark.amending', ${attemptId}, true)`);
  },
  /** How many of these references the class has. */
  referencesOfClass: async (classId: string, ids: readonly string[]): Promise<number> =>
    (await db('loss_references').where({ class_id: classId }).whereIn('id', ids).pluck('id')).length,

  decide: (
    attemptId: string,
    revision: number,
    late: readonly { readonly id: string; readonly take: boolean }[],
  ): Promise<void> =>
    insertRows(
      db,
      'late_decisions',
      late.map(({ id, take }) => ({ entry_id: id, attempt_id: attemptId, revision, taken: take })),
    ),
});
