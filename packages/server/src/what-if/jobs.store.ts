import type { WhatIfCounts, WhatIfJob } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';

/** Results name people: they are kept for those who wait for them, and no longer. */
const KEPT_HOURS = 24;
const JOB = ['id', 'state', 'done', 'total', 'results'];

export const jobsStore = (db: Database) => ({
  /** False when the class has one that is still running. */
  start: async (job: { id: string; classId: string; by: string; total: number }): Promise<boolean> => {
    await db('what_if_jobs')
      .whereNot({ state: 'running' })
      .whereRaw(`at < now() - make_interval(hours => ${KEPT_HOURS})`)
      .del();
    const added = await db('what_if_jobs')
      .insert({ id: job.id, class_id: job.classId, by: job.by, total: job.total, state: 'running' })
      .onConflict(db.raw("(class_id) where state = 'running'"))
      .ignore()
      .returning('id');
    return added.length === 1;
  },
  byId: async (classId: string, id: string): Promise<WhatIfJob | null> =>
    (await db('what_if_jobs').select(JOB).where({ class_id: classId, id }).first()) ?? null,

  /** False when it was cancelled meanwhile. */
  advance: async (id: string, done: number): Promise<boolean> =>
    (await db('what_if_jobs').where({ id, state: 'running' }).update({ done })) === 1,

  finish: async (id: string, state: 'done' | 'failed', results: readonly WhatIfCounts[]): Promise<void> => {
    await db('what_if_jobs')
      .where({ id, state: 'running' })
      .update({ state, results: JSON.stringify(results) });
  },
  cancel: async (classId: string, id: string): Promise<boolean> =>
    (await db('what_if_jobs')
      .where({ class_id: classId, id, state: 'running' })
      .update({ state: 'cancelled' })) === 1,
});
