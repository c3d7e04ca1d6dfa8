import type { ReportBatch } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';

/** Reports name people: they are kept for whoever waits for them, and no longer. */
const KEPT_HOURS = 24;
const BATCH = ['id', 'state', 'done', 'total'];

export const batchesStore = (db: Database) => ({
  /** False where this person has one of the class that is still running. */
  start: async (batch: { id: string; classId: string; by: string; total: number }): Promise<boolean> => {
    await db('report_batches')
      .whereNot({ state: 'running' })
      .whereRaw(`at < now() - make_interval(hours => ${KEPT_HOURS})`)
      .del();
    const added = await db('report_batches')
      .insert({ id: batch.id, class_id: batch.classId, by: batch.by, total: batch.total, state: 'running' })
      .onConflict(db.raw("(class_id, by) where state = 'running'"))
      .ignore()
      .returning('id');
    return added.length === 1;
  },
  byId: async (classId: string, id: string, by: string): Promise<ReportBatch | null> =>
    (await db('report_batches').select(BATCH).where({ class_id: classId, id, by }).first()) ?? null,
  newest: async (classId: string, by: string): Promise<ReportBatch | null> =>
    (await db('report_batches')
      .select(BATCH)
      .where({ class_id: classId, by })
      .orderBy('at', 'desc')
      .first()) ?? null,
  zip: async (classId: string, id: string, by: string): Promise<Buffer | null> =>
    ((await db('report_batches').where({ class_id: classId, id, by }).pluck('zip'))[0] as
      Buffer | null | undefined) ?? null,

  /** False when it was cancelled meanwhile. */
  advance: async (id: string, done: number): Promise<boolean> =>
    (await db('report_batches').where({ id, state: 'running' }).update({ done })) === 1,
  finish: async (id: string, zip: Buffer): Promise<void> => {
    await db('report_batches').where({ id, state: 'running' }).update({ state: 'done', zip });
  },
  fail: async (id: string): Promise<void> => {
    await db('report_batches').where({ id, state: 'running' }).update({ state: 'failed' });
  },
  cancel: async (classId: string, id: string, by: string): Promise<boolean> =>
    (await db('report_batches')
      .where({ class_id: classId, id, by, state: 'running' })
      .update({ state: 'cancelled' })) === 1,
});
