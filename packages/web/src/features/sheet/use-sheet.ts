import {
  type Entry,
  type EntryKind,
  type EntrySource,
  type EntryValue,
  type ReadingVoidReason,
  standingIds,
} from '@clear-mark/core';
import {
  type AttemptDocument,
  type ClassReference,
  keepableText,
  seenText,
  type StoredEntry,
} from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, onScopeDispose, watch } from 'vue';
import { request, ROUTES, sha256Hex } from '../../api/client.ts';
import { seenIds } from '../../classroom/classroom.model.ts';
import { timerOf } from '../../classroom/live-outcomes.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useSession } from '../../session/session.ts';
import { timers } from '../../shell/timers.ts';
import { deviceStore } from '../../storage/device-store.ts';
import { useQueue } from '../../storage/queue.ts';
import { documentOf } from './open-document.ts';
import { lastToUndo } from './sheet.model.ts';
import { useAskedSheet } from './use-asked-sheet.ts';
import { useSheetOutcome } from './use-sheet-outcome.ts';

export interface NewEntry {
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
 * one, and a trainee's own, is asked for.
 */
export function useSheet(attemptId: string, classId: string) {
  const session = useSession();
  const classroom = useClassroom();
  const asking = useAskedSheet(attemptId);
  const { state: asked, failure } = asking;

  const open = computed(() => classroom.attempts.get(attemptId) ?? null);
  const fromClass = computed<AttemptDocument | null>(() => {
    const attempt = open.value;
    const sheet = attempt && classroom.sheetFor(attempt);
    if (!attempt || !sheet || !classroom.detail) return null;
    return documentOf(attempt, sheet, classroom.detail);
  });
  const document = computed(() => asked.value?.document ?? fromClass.value);
  const references = computed(() => asked.value?.references ?? classroom.references);
  const stored = computed<readonly StoredEntry[]>(() => asked.value?.stored ?? open.value?.entries ?? []);
  const offsetMs = computed(() => asked.value?.offsetMs ?? classroom.offsetMs);
  const signed = computed(() => document.value !== null && document.value.attempt.state !== 'open');
  const mine = computed(
    () => session.teaches || (!signed.value && document.value?.attempt.traineeId === session.me?.id),
  );
  const scored = useSheetOutcome(attemptId, document, stored, references);
  const { entries, bench } = scored;

  async function load(): Promise<void> {
    if (classId !== '' && session.teaches && !asked.value) await classroom.open(classId);
    if (!fromClass.value || asked.value) await asking.load();
  }
  // Signed on another device: what it became is shown here.
  const left = watch(open, (now, before) => {
    if (before && !now && !asked.value) void asking.load();
  });
  watch(bench, ({ timers: running }) => {
    const own = asked.value;
    if (!own || session.teaches) return;
    const of = { id: attemptId, traineeName: own.document.attempt.traineeName };
    timers.own.value = running.flatMap((e) => timerOf(of, own.document.sheet, e, '', own.offsetMs));
  });
  onScopeDispose(() => {
    timers.own.value = [];
    left();
  });
  const acts = sheetActs(attemptId, { entries, offsetMs });

  async function sign(reason: string | null, asVoid: boolean): Promise<void> {
    const seen = !asked.value && open.value ? seenIds(open.value) : stored.value.map((e) => e.id);
    const digest = await sha256Hex(seenText(seen));
    const revision = await request(ROUTES.sign, {
      params: { id: attemptId },
      body: { upTo: seen.length, digest, reason: reason === null ? null : keepableText(reason), asVoid },
    });
    const from = {
      document: document.value!,
      stored: stored.value,
      references: references.value,
      offsetMs: offsetMs.value,
    };
    asking.send({ on: 'signed', from, revision });
    void classroom.ask();
  }
  /** The author stands by entries that another person handed in. */
  async function confirm(entryIds: readonly string[]): Promise<void> {
    await request(ROUTES.confirmEntries, { params: { id: attemptId }, body: { entryIds: [...entryIds] } });
    await asking.load();
  }
  /** An attempt that nothing was entered for is taken back. */
  async function withdraw(): Promise<void> {
    await request(ROUTES.withdrawAttempt, { params: { id: attemptId } });
    await deviceStore.dropDocument(attemptId).catch(() => undefined);
    if (session.teaches) void classroom.ask();
  }
  const addReference = (reference: ClassReference): void =>
    asked.value ? asking.send({ on: 'reference', reference }) : classroom.addReference(reference);

  return {
    ...scored,
    ...acts,
    document,
    failure,
    references,
    offsetMs,
    signed,
    mine,
    load,
    sign,
    confirm,
    withdraw,
    addReference,
  };
}
export type SheetState = ReturnType<typeof useSheet>;

/** What adds entries to an attempt: each knows what it supersedes, who made it, where and when. */
function sheetActs(
  attemptId: string,
  at: {
    readonly entries: { readonly value: readonly Entry[] };
    readonly offsetMs: { readonly value: number };
  },
) {
  const session = useSession();
  const queue = useQueue();
  function add(given: NewEntry): Entry {
    const part = given.part ?? '';
    const supersedes =
      given.criterionId !== null && given.kind !== 'note' && given.kind !== 'retract'
        ? standingIds(at.entries.value, given.criterionId, part)
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
      ...(at.offsetMs.value === 0 ? {} : { clockOffsetMs: at.offsetMs.value }),
    };
    void queue.push({ ...entry, supersedes: [...entry.supersedes], attemptId } as never);
    return entry;
  }
  const takeBack = (target: Entry): Entry =>
    add({ kind: 'retract', criterionId: target.criterionId, part: target.part, targetId: target.id });
  function undo(): Entry | null {
    const target = lastToUndo(at.entries.value, session.me!.id);
    if (target) takeBack(target);
    return target;
  }
  return { add, takeBack, undo };
}
