import type { ReportBatch } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { jobProgress } from '../jobs/index.ts';

const BATCH = ['id', 'state', 'done', 'total'];

export const batchesStore = (db: Database) => {
  const progress = jobProgress(db, 'report_batches', '(class_id, by)');
  return {
    /** False where this person has one of the class that is still running. */
    start: progress.begin,
    advance: progress.advance,
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
        | Buffer
        | null
        | undefined) ?? null,
    finish: (id: string, zip: Buffer): Promise<void> => progress.end(id, 'done', { zip }),
    fail: (id: string): Promise<void> => progress.end(id, 'failed'),
    cancel: (classId: string, id: string, by: string): Promise<boolean> =>
      progress.cancel({ class_id: classId, id, by }),
  };
};
