import type { ResultFilter, WhatIfCounts, WhatIfSetting } from '@clear-mark/contract';
import {
  DomainError,
  type LossReference,
  type MethodSheet,
  type Policy,
  type ReplayedAttempt,
  replayOf,
} from '@clear-mark/core';
import { type SignedHead, signedPages } from '../../../api/replay.ts';
import { answerOrders } from '../../../workers/answer-orders.ts';
import { MOST_HERE } from './what-if.model.ts';

/** What the page asks: the settings to score by; pages that were loaded are kept for the next question. */
export interface WhatIfOrder {
  readonly classId: string;
  readonly filter: ResultFilter;
  readonly policy: Policy;
  readonly settings: readonly WhatIfSetting[];
  readonly nowMs: number;
}
export type WhatIfNews =
  | { readonly news: 'progress'; readonly done: number; readonly total: number }
  | { readonly news: 'too_many'; readonly total: number }
  | { readonly news: 'done'; readonly results: WhatIfCounts[]; readonly ms: number }
  | {
      readonly news: 'refused';
      readonly code: string;
      readonly params: Readonly<Record<string, string | number>>;
    };

interface Kept {
  readonly key: string;
  readonly attempts: { readonly attempt: ReplayedAttempt; readonly references: readonly LossReference[] }[];
  readonly heads: Map<string, SignedHead>;
  readonly names: Map<string, string>;
  readonly sheets: Map<string, MethodSheet>;
}
let kept: Kept | null = null;
type Tell = (news: WhatIfNews) => void;

async function load({ classId, filter }: WhatIfOrder, tell: Tell): Promise<Kept | null> {
  const key = JSON.stringify([classId, filter]);
  if (kept?.key === key) return kept;
  const fresh: Kept = { key, attempts: [], heads: new Map(), names: new Map(), sheets: new Map() };
  for await (const page of signedPages(classId, filter)) {
    if (page.total > MOST_HERE) {
      tell({ news: 'too_many', total: page.total });
      return null;
    }
    for (const { attempt, sheet, references, head } of page.attempts) {
      fresh.sheets.set(attempt.versionId, sheet);
      fresh.attempts.push({ attempt, references });
      fresh.heads.set(attempt.id, head);
      fresh.names.set(attempt.traineeId, head.traineeName);
    }
    tell({ news: 'progress', done: fresh.attempts.length, total: page.total });
  }
  kept = fresh;
  return fresh;
}

async function run(order: WhatIfOrder, tell: Tell): Promise<void> {
  const data = await load(order, tell);
  if (!data) return;
  const started = performance.now();
  const replay = replayOf(data.sheets, order.policy, order.settings);
  for (const { attempt, references } of data.attempts) replay.add(attempt, references);
  const results = replay.results(order.nowMs).map((r): WhatIfCounts => ({
    ...r,
    skills: [...r.skills],
    standings: r.standings.map((s) => ({ ...s, traineeName: data.names.get(s.traineeId)! })),
    changes: r.changes.map((c) => ({ ...c, ...data.heads.get(c.attemptId)! })),
  }));
  tell({ news: 'done', results, ms: performance.now() - started });
}

answerOrders<WhatIfOrder, WhatIfNews>(async (order, tell) => {
  try {
    await run(order, tell);
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    tell({ news: 'refused', code: error.code, params: { ...error.params } });
  }
});
