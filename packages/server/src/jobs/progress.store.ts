import type { Database } from '../database/database.ts';

/** What a job leaves names people: it is kept for whoever waits for it, and no longer. */
const KEPT_HOURS = 24;

/**
 * How far jobs are, a row each in a table of its kind, with `state`, `done` and `total`: begun, advanced while it runs, ended once.
 * `alone` names the columns of which no two jobs run at a time.
 */
export const jobProgress = (
  db: Database,
  table: 'what_if_jobs' | 'report_batches',
  alone: '(class_id)' | '(class_id, by)',
) => ({
  /** False where such a one runs already. What is long over is forgotten. */
  begin: async (job: { id: string; classId: string; by: string; total: number }): Promise<boolean> => {
    await db(table)
      .whereNot({ state: 'running' })
      .whereRaw(`at < now() - make_interval(hours => ${KEPT_HOURS})`)
      .del();
    const added = await db(table)
      .insert({ id: job.id, class_id: job.classId, by: job.by, total: job.total, state: 'running' })
      .onConflict(db.raw(`${alone} where state = 'running'`))
      .ignore()
      .returning('id');
    return added.length === 1;
  },
  /** False when it was cancelled meanwhile. */
  advance: async (id: string, done: number): Promise<boolean> =>
    (await db(table).where({ id, state: 'running' }).update({ done })) === 1,
  end: async (
    id: string,
    state: 'done' | 'failed',
    found: Readonly<Record<string, unknown>> = {},
  ): Promise<void> => {
    await db(table)
      .where({ id, state: 'running' })
      .update({ state, ...found });
  },
  /** False where none of these runs. */
  cancel: async (
    where: Readonly<Record<'id' | 'class_id', string>> & { readonly by?: string },
  ): Promise<boolean> =>
    (await db(table).where(where).where({ state: 'running' }).update({ state: 'cancelled' })) === 1,
});
