import {
  WHAT_IF_ROUTES,
  type ReplayPage,
  type ResultFilter,
  type WhatIfCounts,
  type WhatIfSetting,
} from '@clear-mark/contract';
import {
  DomainError,
  type LossReference,
  type MethodSheet,
  type PackedEntry,
  type Policy,
  type ReplayedAttempt,
  replayOf,
  unpackEntries,
} from '@clear-mark/core';
import { request } from '../../../api/client.ts';
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
  readonly heads: Map<string, { traineeName: string; pieceLabel: string; startedAt: string }>;
  readonly names: Map<string, string>;
  readonly sheets: Map<string, MethodSheet>;
}
let kept: Kept | null = null;
type Tell = (news: WhatIfNews) => void;

async function load({ classId, filter }: WhatIfOrder, tell: Tell): Promise<Kept | null> {
  const key = JSON.stringify([classId, filter]);
  if (kept?.key === key) return kept;
  const fresh: Kept = { key, attempts: [], heads: new Map(), names: new Map(), sheets: new Map() };
  let after: string | undefined;
  do {
    const query = { ...filter, ...(after === undefined ? {} : { after }) } as never;
    const page: ReplayPage = await request(WHAT_IF_ROUTES.replay, { params: { id: classId }, query });
    if (page.total > MOST_HERE) {
      tell({ news: 'too_many', total: page.total });
      return null;
    }
    for (const v of page.versions) if (!fresh.sheets.has(v.id)) fresh.sheets.set(v.id, v.sheet);
    const references = new Map((page.references as LossReference[]).map((r) => [r.id, r]));
    for (const attempt of page.attempts) {
      const { traineeName, pieceLabel, startedAt, ...rest } = attempt;
      const entries = unpackEntries(attempt.entries as PackedEntry[]);
      const replayed = { ...rest, startedAt, entries } as ReplayedAttempt;
      const ids = replayed.entries.flatMap((e) => (e.value?.kind === 'loss' ? [e.value.referenceId] : []));
      const used = [...new Set(ids)].flatMap((id) => references.get(id) ?? []);
      fresh.attempts.push({ attempt: replayed, references: used });
      fresh.heads.set(attempt.id, { traineeName, pieceLabel, startedAt });
      fresh.names.set(attempt.traineeId, traineeName);
    }
    tell({ news: 'progress', done: fresh.attempts.length, total: page.total });
    after = page.next ?? undefined;
  } while (after !== undefined);
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
