import { checkPolicy, type MethodSheet, movedSheet, packEntries } from '@clear-mark/core';
import type { Person, ReplayPage, ResultFilter, WhatIfJob, WhatIfSetting } from '@clear-mark/contract';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import type { JobHandlers, JobKind, JobQueue } from '../jobs/index.ts';
import { methodVersion } from '../methods/index.ts';
import { jobsStore } from './jobs.store.ts';
import { replayStore } from './replay.store.ts';
import type { JobOrder } from './run-job.ts';

/** Attempts of one page for a browser: larger ones would keep others waiting while they are put together. */
const PAGE = 60;

interface Asked {
  readonly id: string;
  readonly settings: readonly WhatIfSetting[];
  readonly filter: ResultFilter;
}

/** Jobs of this kind: one that a lost process had begun is tried once more. */
export const WHAT_IF: JobKind = { name: 'what_if', retries: 1 };
/** A job that takes longer than this, and this more an attempt, is taken for lost: a multiple of what it needs. */
const LEAST_SECONDS = 60;
const SECONDS_EACH = 0.01;

export const whatIfService = (db: Database, queue: Pick<JobQueue, 'add'>) => ({
  replay: async (
    classId: string,
    { after, size, ...filter }: ResultFilter & { after?: string | undefined; size?: number | undefined },
    me: Person,
  ): Promise<ReplayPage> => {
    const { timeZone } = await classForInstructor(db, classId, me);
    const scope = { classId, timeZone };
    const store = replayStore(db);
    const [total, page] = await Promise.all([
      store.total(scope, filter),
      store.page(scope, filter, after ?? null, Math.min(PAGE, Math.max(1, size ?? PAGE))),
    ]);
    const ids = [...new Set(page.attempts.map((a) => a.versionId))];
    const versions = await Promise.all(ids.map((id) => methodVersion(db, id)));
    const attempts = page.attempts.map((a) => ({ ...a, entries: packEntries(a.entries) }));
    return { total, ...page, attempts, versions: versions.map((v) => v!) };
  },

  /** Begins a job and gives it back at once; its state and its result are in the database. */
  start: async (classId: string, asked: Asked, me: Person, now: Date): Promise<WhatIfJob> => {
    const { timeZone, policy } = await classForInstructor(db, classId, me);
    for (const setting of asked.settings) {
      if (setting.policy) checkPolicy(setting.policy);
      movedSheet(NO_SHEET, setting);
    }
    const scope = { classId, timeZone };
    return db.transaction(async (trx) => {
      const total = await replayStore(trx).total(scope, asked.filter);
      const jobs = jobsStore(trx);
      if (!(await jobs.start({ id: asked.id, classId, by: me.id, total }))) {
        throw new AppError('what_if.too_many');
      }
      const order: JobOrder = { ...asked, scope, policy, nowMs: now.getTime() };
      await queue.add(trx, WHAT_IF, order, Math.ceil(LEAST_SECONDS + SECONDS_EACH * total));
      return (await jobs.byId(classId, asked.id))!;
    });
  },

  job: async (classId: string, id: string, me: Person): Promise<WhatIfJob> => {
    await classForInstructor(db, classId, me);
    const job = await jobsStore(db).byId(classId, id);
    if (!job) throw new AppError('not_found.job');
    return job;
  },

  cancel: async (classId: string, id: string, me: Person): Promise<void> => {
    await classForInstructor(db, classId, me);
    if (!(await jobsStore(db).cancel(classId, id))) throw new AppError('not_found.job');
  },
});

/** What this process does with the jobs that lie in the queue: `run` scores, in a thread of its own. */
export const whatIfHandlers = (
  db: Database,
  run: (order: JobOrder) => Promise<void>,
): JobHandlers<JobOrder> => ({
  run,
  giveUp: ({ id }) => jobsStore(db).finish(id, 'failed', []),
});

/** What a setting is tried on before a job begins, so that a bad one is refused at once. */
const NO_SHEET = { passMarkPercent: 0, steps: [] } as unknown as MethodSheet;
