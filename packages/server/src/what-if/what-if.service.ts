import {
  checkPolicy,
  type MethodSheet,
  movedSheet,
  packEntries,
  type Policy,
  replayOf,
} from '@clear-mark/core';
import type {
  Person,
  ReplayPage,
  ResultFilter,
  WhatIfCounts,
  WhatIfJob,
  WhatIfSetting,
} from '@clear-mark/contract';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../http/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { jobsStore } from './jobs.store.ts';
import { type Replayed, replayStore } from './replay.store.ts';

/** Attempts of one page: for a browser, and for a job that lets others have the process between pages. */
const PAGE = 500;
const JOB_PAGE = 100;

interface Asked {
  readonly id: string;
  readonly settings: readonly WhatIfSetting[];
  readonly filter: ResultFilter;
}

export const whatIfService = (db: Database) => ({
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
    void run(db, scope, policy, asked, now).catch(() => jobs.finish(asked.id, 'failed', []));
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

async function run(
  db: Database,
  scope: { classId: string; timeZone: string },
  policy: Policy,
  { id, settings, filter }: Asked,
  now: Date,
): Promise<void> {
  const sheets = new Map<string, MethodSheet>();
  const replay = replayOf(sheets, policy, settings);
  const seen = new Map<string, Pick<Replayed, 'traineeName' | 'pieceLabel' | 'startedAt'>>();
  const names = new Map<string, string>();
  let after: string | null = null;
  let done = 0;
  do {
    const page = await replayStore(db).page(scope, filter, after, JOB_PAGE);
    for (const attempt of page.attempts) {
      if (!sheets.has(attempt.versionId)) {
        sheets.set(attempt.versionId, (await methodVersion(db, attempt.versionId))!.sheet);
      }
      const used = page.references.filter((r) => attempt.entries.some((e) => usesReference(e.value, r.id)));
      replay.add(attempt, used);
      const { traineeName, pieceLabel, startedAt } = attempt;
      seen.set(attempt.id, { traineeName, pieceLabel, startedAt });
      names.set(attempt.traineeId, traineeName);
    }
    done += page.attempts.length;
    after = page.next;
    if (!(await jobsStore(db).advance(id, done))) return;
  } while (after !== null);
  const results = replay.results(now.getTime()).map((r): WhatIfCounts => ({
    ...r,
    skills: r.skills.map((s) => ({ ...s })),
    standings: r.standings.map((s) => ({ ...s, traineeName: names.get(s.traineeId)! })),
    changes: r.changes.map((c) => ({ ...c, ...seen.get(c.attemptId)! })),
  }));
  await jobsStore(db).finish(id, 'done', results);
}

const usesReference = (value: Replayed['entries'][number]['value'], id: string): boolean =>
  value?.kind === 'loss' && value.referenceId === id;
