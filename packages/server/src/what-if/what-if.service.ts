import { checkPolicy, type MethodSheet, movedSheet, packEntries } from '@clear-mark/core';
import type { Person, ReplayPage, ResultFilter, WhatIfJob, WhatIfSetting } from '@clear-mark/contract';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { jobsStore } from './jobs.store.ts';
import { replayStore } from './replay.store.ts';
import { type JobOrder, runJob } from './run-job.ts';

/** Attempts of one page for a browser: larger ones would keep others waiting while they are put together. */
const PAGE = 60;

interface Asked {
  readonly id: string;
  readonly settings: readonly WhatIfSetting[];
  readonly filter: ResultFilter;
}

/** Where a job is run: in a thread of its own, or in this one where a test says so. */
export type RunJob = (order: JobOrder) => Promise<void>;

export const whatIfService = (db: Database, run: RunJob = (order) => runJob(db, order)) => ({
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
    const total = await replayStore(db).total(scope, asked.filter);
    const jobs = jobsStore(db);
    if (!(await jobs.start({ id: asked.id, classId, by: me.id, total }))) {
      throw new AppError('what_if.too_many');
    }
    void run({ ...asked, scope, policy, now }).catch(() => jobs.finish(asked.id, 'failed', []));
    return (await jobs.byId(classId, asked.id))!;
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

/** What a setting is tried on before a job begins, so that a bad one is refused at once. */
const NO_SHEET = { passMarkPercent: 0, steps: [] } as unknown as MethodSheet;
