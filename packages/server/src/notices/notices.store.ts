import { v7 } from 'uuid';
import type { Database } from '../database/database.ts';

export type NoticeCause = 'face_graded' | 'reference_reread' | 'reference_void' | 'entry_late';

export const noticesStore = (db: Database) => ({
  /**
   * Says of signed attempts that what their newest revision rests on was changed afterwards. Once for each cause and
   * subject; attempts that are not signed need none.
   */
  raise: async (
    attemptIds: readonly string[],
    cause: NoticeCause,
    subjectId: string,
    by: string,
    at: Date,
  ): Promise<void> => {
    if (attemptIds.length === 0) return;
    const signed: { attempt_id: string; class_id: string; revision: number }[] = (
      await db.raw(
        `select distinct on (attempt_id) attempt_id, class_id, revision from signed_revisions
          where attempt_id = any(?::uuid[]) order by attempt_id, revision desc`,
        [attemptIds as never],
      )
    ).rows;
    if (signed.length === 0) return;
    await db('amendment_notices')
      .insert(signed.map((s) => ({ id: v7(), ...s, cause, subject_id: subjectId, by, at })))
      .onConflict(['attempt_id', 'revision', 'cause', 'subject_id'])
      .ignore();
  },

  /** Signed attempts with a reading that points at a reference. */
  attemptsOnReference: (referenceId: string): Promise<string[]> =>
    db('readings').distinct('attempt_id').where({ reference_id: referenceId }).pluck('attempt_id'),
});
