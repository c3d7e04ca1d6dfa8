import { overBound, planFaults } from '@clear-mark/core';
import type { DayPlanBody, Instrument } from '@clear-mark/contract';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { instantAt } from '../../shared/wall-time.ts';
import { emptyDay, lotsOf, stockShorts, wantedOf } from './plan/day-draft.model.ts';
import { usePlanner } from './plan/use-planner.ts';

const SAVE_AFTER_MS = 600;
const MOST_STEPS_BACK = 50;

const noMetersOf = (connected: readonly Instrument[]): string[] =>
  connected.filter((i) => i.kind !== 'power_meter' && i.kind !== 'splicer').map((i) => i.thingId);

/** A day of a class while it is planned: what was changed is saved by itself, step by step it can be taken back, and a worker plans. */
export function useDay(classId: () => string, day: () => string) {
  const params = computed(() => ({ id: classId() }));
  const { found: detail } = useReply(ROUTES.classDetail, () => ({ params: params.value }));
  const { found: stock, again: stockAgain } = useReply(ROUTES.stock, () => ({ params: params.value }));
  const { found: instruments } = useReply(ROUTES.instruments, () => ({ params: params.value }));
  const { found: methods } = useReply(ROUTES.dayMethods, () => ({ params: params.value }));
  const reply = useReply(ROUTES.day, () => ({ params: { ...params.value, day: day() } }));
  const draft = shallowRef<DayPlanBody | null>(null);
  const back = shallowRef<readonly DayPlanBody[]>([]);
  const isDirty = ref(false);
  const refused = ref<string | null>(null);

  /** What lies on the server, where nothing waits here to be saved. */
  watch(
    [reply.found, detail, stock, instruments],
    ([found, classDetail, kept, connected]) => {
      if (!found || !classDetail || !kept || !connected || isDirty.value || found.day !== day()) return;
      if (found.saved && draft.value && found.saved.version <= draft.value.version) return;
      if (found.saved) {
        const { changedAt: _at, changedBy: _by, ...body } = found.saved;
        draft.value = body;
      } else
        draft.value = emptyDay(found.day, classDetail, kept, noMetersOf(connected), found.benches, instantAt);
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
    planner.forget();
    set(next);
  }
  function undo(): void {
    const last = back.value.at(-1);
    if (!last) return;
    back.value = back.value.slice(0, -1);
    planner.forget();
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

  /** What is short for each piece that the stock does not reach. */
  const shorts = computed(
    () =>
      new Map(
        draft.value && methods.value && stock.value
          ? stockShorts(draft.value, methods.value, lotsOf(stock.value.things)).map((s) => [
              s.pieceId,
              s.items,
            ])
          : [],
      ),
  );
  const planner = usePlanner(
    draft,
    change,
    () => new Set(shorts.value.keys()),
    (words) => (refused.value = words),
  );

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
    planner,
    shorts,
    faults,
    over,
  };
}
export type DayState = ReturnType<typeof useDay>;
