import {
  atTheBench,
  type CriterionOutcome,
  DEFAULT_SCORING,
  type Entry,
  type Outcome,
  score,
} from '@clear-mark/core';
import type { AttemptDocument, ClassReference, StoredEntry } from '@clear-mark/contract';
import { computed, type ComputedRef } from 'vue';
import { useQueue } from '../../storage/queue.ts';
import { listCriteria, reuseUnchanged } from './sheet.model.ts';

/** The entries of an attempt, those on their way among them, and what they come to. All judging is core's `score`. */
export function useSheetOutcome(
  attemptId: string,
  document: ComputedRef<AttemptDocument | null>,
  stored: ComputedRef<readonly StoredEntry[]>,
  references: ComputedRef<readonly ClassReference[]>,
) {
  const queue = useQueue();
  /** What this device holds for the attempt and the server has not acknowledged. */
  const local = computed<readonly Entry[]>((before) => {
    const now = queue.items.flatMap((q) =>
      q.entry !== null && q.state === 'waiting' && q.entry.attemptId === attemptId ? [q.entry] : [],
    );
    // The same entries are the same list: a change elsewhere in the queue scores nothing again.
    return before?.length === now.length && before.every((e, i) => e === now[i]) ? before : now;
  });
  const entries = computed<readonly Entry[]>(() => {
    if (local.value.length === 0) return stored.value;
    const there = new Set(stored.value.map((e) => e.id));
    return [...stored.value, ...local.value.filter((e) => !there.has(e.id))];
  });
  const byId = computed(() => new Map(entries.value.map((e) => [e.id, e])));
  /** Stable, so that a view that asks by id is drawn again only when its own outcome changes. */
  const entryById = (id: string): Entry | null => byId.value.get(id) ?? null;
  const sheet = computed(() => document.value?.sheet ?? null);
  const criteria = computed(() => (sheet.value ? listCriteria(sheet.value) : []));

  const context = computed(() => ({
    references: references.value,
    final: false,
    marginalPassCounts: document.value?.policy.marginalPassCounts ?? true,
    marginalFailCounts: document.value?.policy.marginalFailCounts ?? false,
    attemptVoid: false,
    timeZone: document.value?.timeZone ?? DEFAULT_SCORING.timeZone,
  }));
  const outcome = computed<Outcome | null>(() => {
    const doc = document.value;
    if (!doc) return null;
    const last = doc.revisions[doc.revisions.length - 1];
    return last ? last.outcome : score(doc.sheet, entries.value, context.value);
  });
  /** What the attempt would be if it were signed as it stands. */
  const ifSigned = computed<Outcome | null>(() =>
    sheet.value ? score(sheet.value, entries.value, { ...context.value, final: true }) : null,
  );
  let shown: ReadonlyMap<string, CriterionOutcome> = new Map();
  const outcomes = computed(() => {
    if (outcome.value) shown = reuseUnchanged(shown, outcome.value);
    return shown;
  });
  const bench = computed(() => atTheBench(entries.value));
  const pending = computed(() => local.value.length);
  return { sheet, criteria, entries, entryById, outcome, outcomes, ifSigned, bench, pending };
}
