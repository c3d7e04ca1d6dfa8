import { type MethodSheet, type Policy, replayOf } from '@clear-mark/core';
import type { ResultFilter, WhatIfCounts, WhatIfSetting } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { methodVersion } from '../methods/index.ts';
import { jobsStore } from './jobs.store.ts';
import { type Replayed, replayStore } from './replay.store.ts';

/** What a job is to do: plain values, so that the queue can keep it and another thread be told. */
export interface JobOrder {
  readonly id: string;
  readonly scope: { readonly classId: string; readonly timeZone: string };
  readonly policy: Policy;
  readonly settings: readonly WhatIfSetting[];
  readonly filter: ResultFilter;
  readonly nowMs: number;
}

const PAGE = 100;

/** Scores every attempt of a job again and keeps its progress and its results; stops when it was cancelled. */
export async function runJob(
  db: Database,
  { id, scope, policy, settings, filter, nowMs }: JobOrder,
): Promise<void> {
  const sheets = new Map<string, MethodSheet>();
  const replay = replayOf(sheets, policy, settings);
  const seen = new Map<string, Pick<Replayed, 'traineeName' | 'pieceLabel' | 'startedAt'>>();
  const names = new Map<string, string>();
  let after: string | null = null;
  let done = 0;
  do {
    const page = await replayStore(db).page(scope, filter, after, PAGE);
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
    // The statement itself looks whether the job still runs; a version's sheet never changes.
    // eslint-disable-next-line server/check-then-write
    if (!(await jobsStore(db).advance(id, done))) return;
  } while (after !== null);
  const results = replay.results(nowMs).map((r): WhatIfCounts => ({
    ...r,
    skills: r.skills.map((s) => ({ ...s })),
    standings: r.standings.map((s) => ({ ...s, traineeName: names.get(s.traineeId)! })),
    changes: r.changes.map((c) => ({ ...c, ...seen.get(c.attemptId)! })),
  }));
  await jobsStore(db).finish(id, 'done', results);
}

const usesReference = (value: Replayed['entries'][number]['value'], id: string): boolean =>
  value?.kind === 'loss' && value.referenceId === id;
