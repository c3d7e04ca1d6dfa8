import type { AttemptListFilter, AttemptRow } from '@clear-mark/contract';
import { computed, ref, shallowRef, watch } from 'vue';
import { ROUTES, wordsOf } from '../../api/client.ts';
import { askOnce } from '../../api/queries.ts';
import { linesOf, PAGE, pagesMissing } from './records.model.ts';

/**
 * The records of a class that meet a filter, page by page as they are looked at. A page that comes after another filter was
 * chosen is dropped; one that could not be had is asked for again when it is looked at again.
 */
export function useRecords(classId: () => string, filter: () => AttemptListFilter) {
  const total = ref<number | null>(null);
  const pages = shallowRef<ReadonlyMap<number, readonly AttemptRow[]>>(new Map());
  const failure = ref<string | null>(null);
  const onTheWay = new Set<number>();
  let asked = 0;

  async function load(page: number): Promise<void> {
    if (onTheWay.has(page)) return;
    onTheWay.add(page);
    const mine = asked;
    try {
      const skip = (filter().skip ?? 0) + page * PAGE;
      const query = { ...filter(), skip: skip === 0 ? undefined : skip };
      const list = await askOnce(ROUTES.attemptList, { params: { id: classId() }, query: query as never });
      if (mine !== asked) return;
      failure.value = null;
      if (page === 0 || total.value === null) total.value = list.total;
      pages.value = new Map(pages.value).set(page, list.rows);
    } catch (error) {
      if (mine === asked) failure.value = wordsOf(error);
    } finally {
      if (mine === asked) onTheWay.delete(page);
    }
  }
  function begin(): void {
    asked += 1;
    onTheWay.clear();
    total.value = null;
    pages.value = new Map();
    void load(0);
  }
  /** Lines `first` to `last` are looked at. */
  function look(first: number, last: number): void {
    for (const page of pagesMissing(first, last, total.value ?? 0, pages.value)) void load(page);
  }
  watch(() => JSON.stringify([classId(), filter()]), begin, { immediate: true });
  const lines = computed(() => linesOf(total.value ?? 0, pages.value));
  return { total, lines, failure, look, again: begin };
}
