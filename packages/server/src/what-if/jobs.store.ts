import type { WhatIfCounts, WhatIfJob } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { jobProgress } from '../jobs/index.ts';

const JOB = ['id', 'state', 'done', 'total', 'results'];

export const jobsStore = (db: Database) => {
  const progress = jobProgress(db, 'what_if_jobs', '(class_id)');
  return {
    /** False when the class has one that is still running. */
    start: progress.begin,
    advance: progress.advance,
    byId: async (classId: string, id: string): Promise<WhatIfJob | null> =>
      (await db('what_if_jobs').select(JOB).where({ class_id: classId, id }).first()) ?? null,
    finish: (id: string, state: 'done' | 'failed', results: readonly WhatIfCounts[]): Promise<void> =>
      progress.end(id, state, { results: JSON.stringify(results) }),
    cancel: (classId: string, id: string): Promise<boolean> => progress.cancel({ class_id: classId, id }),
  };
};
