import {
  atTheBench,
  type CriterionOutcome,
  DEFAULT_SCORING,
  type Entry,
  type EntryKind,
  type EntrySource,
  type EntryValue,
  type MethodSheet,
  type Outcome,
  type ReadingVoidReason,
  score,
} from '@clear-mark/core';
import {
  type AttemptDocument,
  type ClassDetail,
  type ClassReference,
  EVENT_PATHS,
  keepableText,
  seenText,
  type StoredEntry,
} from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { request, NoServer, pathOf, ROUTES, sha256Hex, wordsOf } from '../../api/client.ts';
import { type EventStream, openEventStream } from '../../api/event-stream.ts';
import { useSession } from '../../session/session.ts';
import { timers } from '../../shell/timers.ts';
import { timerOf } from '../../classroom/live-outcomes.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { offsetOf, seenIds } from '../../classroom/classroom.model.ts';
import type { KeptAttempt } from '../../storage/kept-attempt.ts';
import { deviceStore } from '../../storage/device-store.ts';
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
 * acts that add entries. An open attempt of the class comes from what the device keeps and needs no request; a signed
 * one, and a trainee's own, is asked for. All judging is core's `score`.
 */
export function useSheet(attemptId: string, classId: string) {
  const session = useSession();
  const queue = useQueue();
  const classroom = useClassroom();
  /** As the server gave it: for a signed attempt, and for a trainee's own. */
  const asked = shallowRef<AttemptDocument | null>(null);
  const failure = ref<string | null>(null);
  const ownReferences = shallowRef<readonly ClassReference[]>([]);
  const ownStored = shallowRef<readonly StoredEntry[]>([]);
  const ownOffsetMs = ref(0);

  const open = computed(() => classroom.attempts.get(attemptId) ?? null);
  const fromClass = computed<AttemptDocument | null>(() => {
    const attempt = open.value;
    const sheet = attempt && classroom.sheetFor(attempt);
    if (!attempt || !sheet || !classroom.detail) return null;
    return documentOf(attempt, sheet, classroom.detail);
  });
  const document = computed(() => asked.value ?? fromClass.value);
  const references = computed(() => (asked.value ? ownReferences.value : classroom.references));
  const stored = computed<readonly StoredEntry[]>(() =>
    asked.value ? ownStored.value : (open.value?.entries ?? []),
  );
  const offsetMs = computed(() => (asked.value ? ownOffsetMs.value : classroom.offsetMs));
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
  const signed = computed(() => document.value !== null && document.value.attempt.state !== 'open');
  const mine = computed(
    () => session.teaches || (!signed.value && document.value?.attempt.traineeId === session.me?.id),
  );

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

  async function load(): Promise<void> {
    if (classId !== '' && session.teaches && !asked.value) await classroom.open(classId);
    if (fromClass.value && !asked.value) return;
    try {
      const doc = await request(ROUTES.attempt, { params: { id: attemptId } });
      // On the device before it is on the screen: the network may be gone a second later.
      const keep =
        doc.attempt.state === 'open' ? deviceStore.keepDocument(doc) : deviceStore.dropDocument(attemptId);
      await keep.catch(() => undefined);
      show(doc);
    } catch (error) {
      failure.value = wordsOf(error);
      const kept = error instanceof NoServer && !asked.value ? await keptDocument() : null;
      if (kept) show(kept);
    }
  }
  const keptDocument = (): Promise<AttemptDocument | null> =>
    deviceStore.document(attemptId).catch(() => null);
  function show(doc: AttemptDocument): void {
    asked.value = doc;
    ownReferences.value = doc.references;
    ownStored.value = doc.entries;
    failure.value = null;
    if (doc.attempt.state === 'open') listen();
  }

  let stream: EventStream | null = null;
  function listen(): void {
    if (stream) return;
    const path = pathOf(EVENT_PATHS.attempt, { id: attemptId });
    stream = openEventStream(path, () => void catchUp());
  }
  async function catchUp(): Promise<void> {
    const last = ownStored.value.reduce((most, e) => Math.max(most, e.seq), 0);
    try {
      const reply = await request(ROUTES.attemptChanges, {
        params: { id: attemptId },
        query: { after: last },
      });
      ownOffsetMs.value = offsetOf(reply.now, Date.now());
      ownReferences.value = reply.references;
      const there = new Set(ownStored.value.map((e) => e.seq));
      const added = reply.entries.filter((e) => !there.has(e.seq));
      if (added.length > 0) ownStored.value = [...ownStored.value, ...added];
      if (reply.state !== 'open') await load();
    } catch {
      // The next notification asks again.
    }
  }

  const settled = queue.onSettled((entry, receipt) => {
    if (entry.attemptId !== attemptId) return;
    if (receipt.state === 'accepted' && asked.value && !ownStored.value.some((e) => e.id === entry.id)) {
      const at = receipt.at ?? entry.at;
      const seen: StoredEntry = { ...entry, at, seq: receipt.seq, clockOffsetMs: ownOffsetMs.value };
      ownStored.value = [...ownStored.value, seen];
    } else if (receipt.state === 'unmerged') void load();
  });
  // Signed on another device: what it became is shown here.
  const left = watch(open, (now, before) => {
    if (before && !now && !asked.value) void load();
  });
  watch(bench, ({ timers: running }) => {
    const doc = asked.value;
    if (!doc || session.teaches) return;
    const of = { id: attemptId, traineeName: doc.attempt.traineeName };
    timers.own.value = running.flatMap((e) => timerOf(of, doc.sheet, e, '', ownOffsetMs.value));
  });
  onScopeDispose(() => {
    timers.own.value = [];
    settled();
    left();
    stream?.close();
  });

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
      note: given.note ? keepableText(given.note) : null,
      authorId: session.me!.id,
      capacity: session.teaches ? 'instructor' : 'trainee',
      deviceId: session.deviceId,
      source: given.source ?? 'typed',
      at: new Date().toISOString(),
      supersedes,
      targetId: given.targetId ?? null,
      ...(offsetMs.value === 0 ? {} : { clockOffsetMs: offsetMs.value }),
    };
    void queue.push({ ...entry, supersedes: [...entry.supersedes], attemptId } as never);
    return entry;
  }

  const takeBack = (target: Entry): Entry =>
    add({ kind: 'retract', criterionId: target.criterionId, part: target.part, targetId: target.id });

  function undo(): Entry | null {
    const target = lastToUndo(entries.value, session.me!.id);
    if (!target) return null;
    takeBack(target);
    return target;
  }

  const pending = computed(() => local.value.length);

  async function sign(reason: string | null, asVoid: boolean): Promise<void> {
    const seen = !asked.value && open.value ? seenIds(open.value) : stored.value.map((e) => e.id);
    const digest = await sha256Hex(seenText(seen));
    const revision = await request(ROUTES.sign, {
      params: { id: attemptId },
      body: { upTo: seen.length, digest, reason: reason === null ? null : keepableText(reason), asVoid },
    });
    const doc = document.value!;
    ownStored.value = stored.value;
    ownReferences.value = references.value;
    asked.value = {
      ...doc,
      attempt: { ...doc.attempt, state: 'signed' },
      revisions: [...doc.revisions, revision],
    };
    void classroom.ask();
  }

  /** The author stands by entries that another person handed in. */
  async function confirm(entryIds: readonly string[]): Promise<void> {
    await request(ROUTES.confirmEntries, { params: { id: attemptId }, body: { entryIds: [...entryIds] } });
    asked.value = null;
    const doc = await request(ROUTES.attempt, { params: { id: attemptId } });
    show(doc);
  }
  /** An attempt that nothing was entered for is taken back. */
  async function withdraw(): Promise<void> {
    await request(ROUTES.withdrawAttempt, { params: { id: attemptId } });
    await deviceStore.dropDocument(attemptId).catch(() => undefined);
    if (session.teaches) void classroom.ask();
  }

  function addReference(reference: ClassReference): void {
    if (asked.value) {
      ownReferences.value = [reference, ...ownReferences.value.filter((r) => r.id !== reference.id)];
    } else classroom.addReference(reference);
  }

  return {
    document,
    failure,
    sheet,
    criteria,
    entries,
    entryById,
    references,
    offsetMs,
    outcome,
    outcomes,
    ifSigned,
    bench,
    signed,
    mine,
    pending,
    load,
    add,
    takeBack,
    undo,
    sign,
    confirm,
    withdraw,
    addReference,
  };
}

/** An open attempt of the class as a document. */
function documentOf(
  attempt: KeptAttempt,
  sheet: MethodSheet,
  { id: classId, policy, timeZone }: Pick<ClassDetail, 'id' | 'policy' | 'timeZone'>,
): AttemptDocument {
  const { id, traineeId, traineeName, methodVersionId, pieceId, pieceLabel, startedAt, things } = attempt;
  const head = { id, traineeId, traineeName, methodVersionId, pieceId, pieceLabel, startedAt, things };
  return {
    attempt: { ...head, classId, state: 'open', claimedStartedAt: attempt.claimedStartedAt ?? null },
    sheet,
    policy,
    timeZone,
    entries: [],
    references: [],
    revisions: [],
    unmerged: 0,
    notices: [],
  };
}

export type SheetState = ReturnType<typeof useSheet>;
