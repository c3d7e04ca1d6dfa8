import type { WhatIfCounts, WhatIfJob } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';

/** Results name people: they are kept for those who wait for them, and no longer. */
const KEPT_HOURS = 24;
/** A job whose process has not been heard of for so long was lost with it. */
const LOST_AFTER_SECONDS = 60;

const JOB = ['id', 'state', 'done', 'total', 'results'];

export const jobsStore = (db: Database) => ({
  /** False when the class has one that is still running. */
  start: async (job: { id: string; classId: string; by: string; total: number }): Promise<boolean> => {
    await db('what_if_jobs')
      .where({ class_id: job.classId, state: 'running' })
      .whereRaw(`beat < now() - make_interval(secs => ${LOST_AFTER_SECONDS})`)
      .update({ state: 'failed' });
    await db('what_if_jobs')
      .whereNot({ state: 'running' })
      .whereRaw(`at < now() - make_interval(hours => ${KEPT_HOURS})`)
      .del();
    try {
      await db('what_if_jobs').insert({
        ...{ id: job.id, class_id: job.classId, by: job.by, total: job.total, state: 'running' },
      });
      return true;
    } catch (error) {
      if (sqlStateOf(error) === UNIQUE_VIOLATION) return false;
      throw error;
    }
  },
  byId: async (classId: string, id: string): Promise<WhatIfJob | null> =>
    (await db('what_if_jobs').select(JOB).where({ class_id: classId, id }).first()) ?? null,

  /** False when it was cancelled meanwhile. */
  advance: async (id: string, done: number): Promise<boolean> =>
    (await db('what_if_jobs').where({ id, state: 'running' }).update({ done, beat: db.fn.now() })) === 1,

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
