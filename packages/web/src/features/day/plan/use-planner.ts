import type { MovedStep, TriedChange } from '@clear-mark/core';
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
    change({ ...draft.value, plan });
    moved.value = changes;
    tookMs.value = ms;
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
      if (draft.value) ask({ kind: 'search', day: wantedOf(draft.value) });
    },
    /** Around what is locked; from a minute on also around what is done. */
    replan: (from: FromNow | null = null): void => {
      const now = draft.value;
      if (now?.plan) ask({ kind: 'replan', day: wantedOf(now, from), before: now.plan });
    },
    askChanges: (): void => {
      const now = draft.value;
      if (now?.plan) ask({ kind: 'changes', day: wantedOf({ ...now, plan: null }), plan: now.plan });
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
