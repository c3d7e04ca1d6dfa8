import type { AttemptListFilter, AttemptRow } from '@clear-mark/contract';
import { ref, shallowRef, watch } from 'vue';
import { ROUTES, wordsOf } from '../../api/client.ts';
import { askOnce } from '../../api/queries.ts';
import { PAGE, pagesMissing, placesFor, type RecordLine, withPage } from './records.model.ts';

/** What comes before it is looked at need not be drawn twice. */
const LINES_AHEAD = 60;

/**
 * The records of a class that meet a filter, page by page as they are looked at. A page that comes after another filter was
 * chosen is dropped; one that could not be had is asked for again when it is looked at again.
 */
export function useRecords(classId: () => string, filter: () => AttemptListFilter) {
  const total = ref<number | null>(null);
  /** The pages that are there, and the lines with them: a page that comes costs its own lines, not those of the list. */
  const pages = new Map<number, readonly AttemptRow[]>();
  const lines = shallowRef<readonly RecordLine[]>([]);
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
      if (page === 0 || total.value === null) setTotal(list.total);
      pages.set(page, list.rows);
      lines.value = withPage(lines.value, page, list.rows);
    } catch (error) {
      if (mine === asked) failure.value = wordsOf(error);
    } finally {
      if (mine === asked) onTheWay.delete(page);
    }
  }
  function setTotal(count: number): void {
    if (total.value === count) return;
    total.value = count;
    lines.value = placesFor(count);
    for (const [page, rows] of pages) lines.value = withPage(lines.value, page, rows);
  }
  function begin(): void {
    asked += 1;
    onTheWay.clear();
    total.value = null;
    pages.clear();
    lines.value = [];
    void load(0);
  }
  /** Lines `first` to `last` are looked at; those round them are fetched before they come into view. */
  function look(first: number, last: number): void {
    const soon = pagesMissing(first - LINES_AHEAD, last + LINES_AHEAD, total.value ?? 0, pages);
    for (const page of soon) void load(page);
  }
  watch(() => JSON.stringify([classId(), filter()]), begin, { immediate: true });
  return { total, lines, failure, look, again: begin };
}
