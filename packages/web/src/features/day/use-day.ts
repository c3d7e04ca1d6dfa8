import { movedSteps, type MovedStep, overBound, planFaults, type TriedChange } from '@clear-mark/core';
import type { DayPlanBody } from '@clear-mark/contract';
import { useDebounceFn } from '@vueuse/core';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { instantAt } from '../../shared/wall-time.ts';
import { workerClient } from '../../workers/worker-client.ts';
import { emptyDay, wantedOf } from './plan/day-draft.model.ts';
import type { PlanNews, PlanOrder } from './plan/plan-order.ts';

const SAVE_AFTER_MS = 600;
const MOST_STEPS_BACK = 50;
export type FromNow = { readonly minute: number; readonly lateBy: ReadonlyMap<string, number> };
type Plan = NonNullable<DayPlanBody['plan']>;
const asPlan = (plan: unknown): Plan => plan as Plan;

/** A day of a class while it is planned: what was changed is saved by itself, step by step it can be taken back, and a worker plans. */
export function useDay(classId: () => string, day: () => string) {
  const params = computed(() => ({ id: classId() }));
  const { found: detail } = useReply(ROUTES.classDetail, () => ({ params: params.value }));
  const { found: stock, again: stockAgain } = useReply(ROUTES.stock, () => ({ params: params.value }));
  const { found: methods } = useReply(ROUTES.dayMethods, () => ({ params: params.value }));
  const reply = useReply(ROUTES.day, () => ({ params: { ...params.value, day: day() } }));
  const draft = shallowRef<DayPlanBody | null>(null);
  const back = shallowRef<readonly DayPlanBody[]>([]);
  const isDirty = ref(false);
  const refused = ref<string | null>(null);

  /** What lies on the server, where nothing waits here to be saved. */
  watch(
    [reply.found, detail, stock],
    ([found, classDetail, kept]) => {
      if (!found || !classDetail || !kept || isDirty.value || found.day !== day()) return;
      if (found.saved && draft.value && found.saved.version <= draft.value.version) return;
      if (found.saved) {
        const { changedAt: _at, changedBy: _by, ...body } = found.saved;
        draft.value = body;
      } else draft.value = emptyDay(found.day, classDetail, kept, instantAt);
      back.value = [];
    },
    { immediate: true },
  );

  async function save(): Promise<void> {
    const sent = draft.value;
    if (!sent || !isDirty.value) return;
    try {
      const { version } = await request(ROUTES.saveDay, {
        params: { ...params.value, day: day() },
        body: sent,
      });
      refused.value = null;
      const isNewest = draft.value === sent;
      if (draft.value) draft.value = { ...draft.value, version };
      if (isNewest) isDirty.value = false;
      else await save();
    } catch (error) {
      refused.value = wordsOf(error);
    }
  }
  const saveSoon = useDebounceFn(save, SAVE_AFTER_MS);
  function set(next: DayPlanBody): void {
    draft.value = { ...next, version: draft.value?.version ?? next.version };
    isDirty.value = true;
    void saveSoon();
  }
  function change(next: DayPlanBody): void {
    if (draft.value) back.value = [...back.value, draft.value].slice(-MOST_STEPS_BACK);
    tried.value = null;
    set(next);
  }
  function undo(): void {
    const last = back.value.at(-1);
    if (!last) return;
    back.value = back.value.slice(0, -1);
    moved.value = [];
    set(last);
  }
  /** The day as the server has it, in place of what could not be saved. */
  async function reload(): Promise<void> {
    isDirty.value = false;
    refused.value = null;
    draft.value = null;
    await reply.again();
    const { saved } = reply.found.value ?? {};
    if (!saved || draft.value) return;
    const { changedAt: _at, changedBy: _by, ...body } = saved;
    draft.value = body;
  }

  const worker = workerClient<PlanOrder, PlanNews>(
    () => new Worker(new URL('./plan/plan-worker.ts', import.meta.url), { type: 'module' }),
  );
  onScopeDispose(worker.end);
  const progress = ref<number | null>(null);
  const best = shallowRef<Plan | null>(null);
  const moved = shallowRef<readonly MovedStep[]>([]);
  const tried = shallowRef<readonly TriedChange[] | null>(null);
  const tookMs = ref<number | null>(null);

  function ask(order: PlanOrder): void {
    progress.value = 0;
    best.value = null;
    worker.ask(
      order,
      (news) => {
        if (news.news === 'progress') {
          progress.value = news.done;
          best.value = asPlan(news.best);
          return;
        }
        progress.value = null;
        if (news.news === 'changes') tried.value = news.tried;
        else {
          tookMs.value = news.ms;
          take(asPlan(news.plan), news.moved);
        }
      },
      (words) => {
        progress.value = null;
        refused.value = words;
      },
    );
  }
  function take(plan: Plan, changes: readonly MovedStep[]): void {
    if (!draft.value) return;
    change({ ...draft.value, plan });
    moved.value = changes;
  }
  /** Ends the search; the best plan so far is kept, if there was one. */
  function stop(): void {
    worker.end();
    progress.value = null;
    if (best.value) take(best.value, []);
  }
  function plan(): void {
    if (draft.value) ask({ kind: 'search', day: wantedOf({ ...draft.value, plan: null }) });
  }
  /** Around what is locked; from a minute on also around what is done. */
  function replan(from: FromNow | null = null): void {
    const now = draft.value;
    if (now?.plan) ask({ kind: 'replan', day: wantedOf(now, from), before: now.plan });
  }
  const askChanges = (): void => {
    const now = draft.value;
    if (now?.plan) ask({ kind: 'changes', day: wantedOf({ ...now, plan: null }), plan: now.plan });
  };

  const faults = computed(() =>
    draft.value?.plan ? planFaults(wantedOf({ ...draft.value, locks: [] }), draft.value.plan) : [],
  );
  const over = computed(() => (draft.value?.plan ? overBound(wantedOf(draft.value), draft.value.plan) : 0));

  return {
    detail,
    stock,
    stockAgain,
    methods,
    reply,
    draft,
    change,
    undo,
    canUndo: computed(() => back.value.length > 0),
    isDirty,
    refused,
    reload,
    plan,
    replan,
    askChanges,
    stop,
    progress,
    moved,
    tried,
    tookMs,
    faults,
    over,
    movedFrom: (before: Plan, after: Plan) => movedSteps(before, after),
  };
}
export type DayState = ReturnType<typeof useDay>;
