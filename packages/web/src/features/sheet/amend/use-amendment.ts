import { type Entry, type EntryValue, type Outcome, score, standingIds } from '@clear-mark/core';
import type { AttemptDocument } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, type ComputedRef, reactive, ref, shallowRef } from 'vue';
import { useSession } from '../../../session/session.ts';
import { standingEntry } from '../sheet.model.ts';
import { changesOf, withLate } from './amendment.model.ts';

/** An amendment while it is written: nothing of it is kept before it is signed. The outcome is that of the same `score`. */
export function useAmendment(document: ComputedRef<AttemptDocument>) {
  const session = useSession();
  const taken = reactive(new Set<string>());
  const own = shallowRef<readonly Entry[]>([]);
  const asVoid = ref(false);
  const base = computed(() => withLate(document.value.entries, document.value.late, taken));
  const entries = computed<readonly Entry[]>(() => [...base.value, ...own.value]);
  const outcome = computed<Outcome>(() =>
    score(document.value.sheet, entries.value, {
      references: document.value.references,
      final: true,
      marginalPassCounts: document.value.policy.marginalPassCounts,
      marginalFailCounts: document.value.policy.marginalFailCounts,
      attemptVoid: asVoid.value,
      timeZone: document.value.timeZone,
    }),
  );
  const outcomes = computed(() => new Map(outcome.value.criteria.map((c) => [c.criterionId, c])));
  const changes = computed(() => changesOf(document.value.sheet, base.value, own.value));

  /** Without a value: it was not seen. */
  function enter(criterionId: string, part: string, value: EntryValue | null): void {
    // Typed twice in one place, the last one counts, and one is sent.
    const others = own.value.filter((e) => e.criterionId !== criterionId || e.part !== part);
    const entry: Entry = {
      id: v7(),
      kind: value === null ? 'not_seen' : 'value',
      criterionId,
      part,
      value,
      voidReason: null,
      note: null,
      authorId: session.me?.id ?? '',
      capacity: 'instructor',
      deviceId: session.deviceId,
      source: 'typed',
      at: new Date().toISOString(),
      supersedes: standingIds(base.value, criterionId, part),
      targetId: null,
    };
    own.value = [...others, entry];
  }
  const takeBack = (id: string): void => void (own.value = own.value.filter((e) => e.id !== id));
  const take = (id: string, on: boolean): void => {
    if (on) taken.add(id);
    else taken.delete(id);
  };
  const entryOf = (criterionId: string): Entry | null => standingEntry(entries.value, criterionId, '');
  const entryById = (id: string): Entry | null => entries.value.find((e) => e.id === id) ?? null;
  return { taken, own, asVoid, outcome, outcomes, changes, enter, takeBack, take, entryOf, entryById };
}
