import type { Person, ReportBatch } from '@clear-mark/contract';
import type { Paper } from '@clear-mark/paper';
import { record } from '../audit/index.ts';
import { classesService, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import type { JobHandlers, JobKind, JobQueue } from '../jobs/index.ts';
import { batchesStore } from './batches.store.ts';
import type { BatchOrder } from './set-batch.ts';

/** Jobs of this kind: one that a lost process had begun is tried once more. */
export const REPORT_BATCH: JobKind = { name: 'report_batch', retries: 1 };
/** A batch that takes longer than this, and this more a report, is taken for lost: a multiple of what it needs. */
const LEAST_SECONDS = 60;
const SECONDS_EACH = 3;

/** Batches of reports; each is for the one who asked for it. */
export const batchesService = (db: Database, queue: Pick<JobQueue, 'add'>) => {
  const needed = <T>(found: T | null): T => {
    if (found === null) throw new AppError('not_found.job');
    return found;
  };
  return {
    /** Begins a batch and gives it back at once; its state and its file are in the database. */
    start: async (
      classId: string,
      { id, paper, locale }: { id: string; paper: Paper; locale: string },
      me: Person,
      now: Date,
    ): Promise<ReportBatch> => {
      const { trainees } = await classesService(db).detail(classId, me);
      const total = trainees.length + 1;
      return db.transaction(async (trx) => {
        await classForInstructor(trx, classId, me);
        const batches = batchesStore(trx);
        if (!(await batches.start({ id, classId, by: me.id, total })))
          throw new AppError('report.batch_running');
        const order: BatchOrder = { id, classId, by: me.id, paper, locale, nowMs: now.getTime() };
        await queue.add(trx, REPORT_BATCH, order, LEAST_SECONDS + SECONDS_EACH * total);
        await record(trx, { kind: 'export', by: me.id, classId, detail: `${total} reports` });
        return (await batches.byId(classId, id, me.id))!;
      });
    },
    byId: async (classId: string, id: string, me: Person): Promise<ReportBatch> => {
      await classForInstructor(db, classId, me);
      return needed(await batchesStore(db).byId(classId, id, me.id));
    },
    newest: async (classId: string, me: Person): Promise<ReportBatch | null> => {
      await classForInstructor(db, classId, me);
      return batchesStore(db).newest(classId, me.id);
    },
    zip: async (classId: string, id: string, me: Person): Promise<Buffer> => {
      await classForInstructor(db, classId, me);
      return needed(await batchesStore(db).zip(classId, id, me.id));
    },
    cancel: async (classId: string, id: string, me: Person): Promise<void> => {
      await classForInstructor(db, classId, me);
      if (!(await batchesStore(db).cancel(classId, id, me.id))) throw new AppError('not_found.job');
    },
  };
};

/** What this process does with the batches that lie in the queue: `run` sets them, in a thread of its own. */
export const batchHandlers = (
  db: Database,
  run: (order: BatchOrder) => Promise<void>,
): JobHandlers<BatchOrder> => ({ run, giveUp: ({ id }) => batchesStore(db).fail(id) });
