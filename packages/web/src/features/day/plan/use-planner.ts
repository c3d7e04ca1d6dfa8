import type { DayWanted, MovedStep, TriedChange } from '@clear-mark/core';
import type { DayPlanBody } from '@clear-mark/contract';
import { onScopeDispose, ref, type ShallowRef, shallowRef } from 'vue';
import { workerClient } from '../../../workers/worker-client.ts';
import { type FromNow, wantedOf } from './day-draft.model.ts';
import type { PlanNews, PlanOrder } from './plan-order.ts';

type Plan = NonNullable<DayPlanBody['plan']>;
const asPlan = (plan: unknown): Plan => plan as Plan;

/** A worker that plans the day: anew, around what is locked or done, and what would make everything fit. */
export function usePlanner(
  draft: ShallowRef<DayPlanBody | null>,
  change: (next: DayPlanBody) => void,
  /** Pieces for which the stock does not reach: they are not planned. */
  short: () => ReadonlySet<string>,
  failed: (words: string) => void,
) {
  const worker = workerClient<PlanOrder, PlanNews>(
    () => new Worker(new URL('./plan-worker.ts', import.meta.url), { type: 'module' }),
  );
  onScopeDispose(worker.end);
  const progress = ref<number | null>(null);
  const best = shallowRef<Plan | null>(null);
  const moved = shallowRef<readonly MovedStep[]>([]);
  const tried = shallowRef<readonly TriedChange[] | null>(null);
  const tookMs = ref<number | null>(null);

  function take(plan: Plan, changes: readonly MovedStep[], ms: number | null): void {
    if (!draft.value) return;
    const out = draft.value.pieces.map((p) => p.id).filter((id) => short().has(id));
    change({ ...draft.value, plan: { ...plan, left: [...new Set(plan.left.concat(out))] } });
    moved.value = changes;
    tookMs.value = ms;
  }
  /** Without what the stock does not reach. */
  function served(day: DayWanted): DayWanted {
    return { ...day, pieces: day.pieces.filter((p) => !short().has(p.id)) };
  }
  function hear(news: PlanNews): void {
    if (news.news === 'progress') {
      progress.value = news.done;
      best.value = asPlan(news.best);
      return;
    }
    progress.value = null;
    if (news.news === 'changes') tried.value = news.tried;
    else take(asPlan(news.plan), news.moved, news.ms);
  }
  function ask(order: PlanOrder): void {
    progress.value = 0;
    best.value = null;
    worker.ask(order, hear, (words) => {
      progress.value = null;
      failed(words);
    });
  }
  return {
    progress,
    moved,
    tried,
    tookMs,
    plan: (): void => {
      if (draft.value) ask({ kind: 'search', day: served(wantedOf(draft.value)) });
    },
    /** Around what is locked; from a minute on also around what is done. */
    replan: (from: FromNow | null = null): void => {
      const now = draft.value;
      if (now?.plan) ask({ kind: 'replan', day: served(wantedOf(now, from)), before: now.plan });
    },
    askChanges: (): void => {
      const now = draft.value;
      if (now?.plan)
        ask({
          kind: 'changes',
          day: served(wantedOf({ ...now, plan: null })),
          plan: { ...now.plan, left: now.plan.left.filter((id) => !short().has(id)) },
        });
    },
    /** Ends the search; the best plan so far is kept, if there was one. */
    stop: (): void => {
      worker.end();
      progress.value = null;
      if (best.value) take(best.value, [], null);
    },
    /** What was said of another plan. */
    forget: (): void => {
      tried.value = null;
      moved.value = [];
      tookMs.value = null;
    },
  };
}
