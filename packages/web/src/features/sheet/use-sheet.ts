import {
  type CriterionOutcome,
  type Entry,
  type EntryKind,
  type EntrySource,
  type EntryValue,
  type Outcome,
  type ReadingVoidReason,
  score,
} from '@clear-mark/core';
import type { AttemptDocument, ClassReference, StoredEntry } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import { useSession } from '../../shell/session.ts';
import { useQueue } from '../../storage/queue.ts';
import { lastToUndo, listCriteria, reuseUnchanged, standingIds } from './sheet.model.ts';

interface NewEntry {
  readonly kind: EntryKind;
  readonly criterionId: string | null;
  readonly part?: string;
  readonly value?: EntryValue | null;
  readonly voidReason?: ReadingVoidReason | null;
  readonly note?: string | null;
  readonly source?: EntrySource;
  readonly targetId?: string | null;
}

/**
 * One attempt on this device: what the server has, what is still on its way, the live outcome of both, and the
 * acts that add entries. All judging is core's `score`.
 */
export function useSheet(attemptId: string) {
  const session = useSession();
  const queue = useQueue();
  const document = shallowRef<AttemptDocument | null>(null);
  const failure = ref<string | null>(null);
  const references = shallowRef<readonly ClassReference[]>([]);
  const stored = shallowRef<readonly StoredEntry[]>([]);
  /** Entries made here since the sheet was opened; the queue's list follows a moment later. */
  const localEntries = shallowRef<readonly Entry[]>([]);

  const entries = computed<readonly Entry[]>(() => [...stored.value, ...localEntries.value]);
  const byId = computed(() => new Map(entries.value.map((e) => [e.id, e])));
  /** Stable, so that a view that asks by id is drawn again only when its own outcome changes. */
  const entryById = (id: string): Entry | null => byId.value.get(id) ?? null;
  const sheet = computed(() => document.value?.sheet ?? null);
  const criteria = computed(() => (sheet.value ? listCriteria(sheet.value) : []));
  const signed = computed(() => document.value?.attempt.state === 'signed');
  const mine = computed(() => session.teaches);

  const context = computed(() => ({
    references: references.value,
    final: false,
    marginalPassCounts: document.value?.policy.marginalPassCounts ?? true,
    marginalFailCounts: document.value?.policy.marginalFailCounts ?? false,
    attemptVoid: false,
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

  async function load(): Promise<void> {
    try {
      take(await call(ROUTES.attempt, { params: { id: attemptId } }));
      failure.value = null;
    } catch (error) {
      failure.value = wordsOf(error);
    }
  }

  function take(doc: AttemptDocument): void {
    document.value = doc;
    references.value = doc.references;
    stored.value = doc.entries;
    const there = new Set(doc.entries.map((e) => e.id));
    localEntries.value = queue.items
      .filter((q) => q.state === 'waiting' && q.entry.attemptId === attemptId && !there.has(q.entry.id))
      .map((q) => q.entry);
  }

  const stop = queue.onSettled((entry, receipt) => {
    if (entry.attemptId !== attemptId) return;
    if (receipt.state === 'accepted') {
      if (!stored.value.some((e) => e.id === entry.id)) {
        stored.value = [...stored.value, { ...entry, seq: receipt.seq }];
      }
    } else if (receipt.state === 'unmerged') void load();
    localEntries.value = localEntries.value.filter((e) => e.id !== entry.id);
  });
  onScopeDispose(stop);

  function add(given: NewEntry): Entry {
    const part = given.part ?? '';
    const supersedes =
      given.criterionId !== null && given.kind !== 'note' && given.kind !== 'retract'
        ? standingIds(entries.value, given.criterionId, part)
        : [];
    const entry: Entry = {
      id: v7(),
      kind: given.kind,
      criterionId: given.criterionId,
      part,
      value: given.value ?? null,
      voidReason: given.voidReason ?? null,
      note: given.note ?? null,
      authorId: session.me!.id,
      capacity: session.teaches ? 'instructor' : 'trainee',
      deviceId: session.deviceId,
      source: given.source ?? 'typed',
      at: new Date().toISOString(),
      supersedes,
      targetId: given.targetId ?? null,
    };
    localEntries.value = [...localEntries.value, entry];
    void queue.push({ ...entry, supersedes: [...entry.supersedes], attemptId } as never);
    return entry;
  }

  function undo(): Entry | null {
    const target = lastToUndo(entries.value, session.me!.id);
    if (!target) return null;
    add({ kind: 'retract', criterionId: target.criterionId, part: target.part, targetId: target.id });
    return target;
  }

  const pending = computed(
    () => queue.items.filter((q) => q.entry.attemptId === attemptId && q.state === 'waiting').length,
  );

  async function sign(reason: string | null, asVoid: boolean): Promise<void> {
    const revision = await call(ROUTES.sign, {
      params: { id: attemptId },
      body: { entryIds: stored.value.map((e) => e.id), reason, asVoid },
    });
    const doc = document.value!;
    document.value = {
      ...doc,
      attempt: { ...doc.attempt, state: 'signed' },
      revisions: [...doc.revisions, revision],
    };
  }

  function addReference(reference: ClassReference): void {
    references.value = [reference, ...references.value.filter((r) => r.id !== reference.id)];
  }

  return {
    document,
    failure,
    sheet,
    criteria,
    entries,
    entryById,
    references,
    outcome,
    outcomes,
    ifSigned,
    signed,
    mine,
    pending,
    load,
    add,
    undo,
    sign,
    addReference,
  };
}

export type SheetState = ReturnType<typeof useSheet>;
