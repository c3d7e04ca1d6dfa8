import { dayIn } from '@clear-mark/core';
import {
  type CatchUp,
  type ClassDetail,
  type ClassReference,
  type EntriesNews,
  type OpenAttempt,
  type StoredEntry,
  type TodayTile,
} from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { Refusal, request, ROUTES } from '../api/client.ts';
import { classChanged } from '../api/queries.ts';
import { classCopy } from './class-copy.ts';
import { classQuestion } from './class-question.ts';
import { classStream } from './class-stream.ts';
import { deviceStore } from '../storage/device-store.ts';
import { kept, knownOf, merge, offsetOf, withEntries, withNews } from './classroom.model.ts';
import type { KeptAttempt } from '../storage/kept-attempt.ts';
import { useSession } from '../session/session.ts';
import { useQueue } from '../storage/queue.ts';
import { sheetShelf } from './sheet-shelf.ts';

export type ConnectionState = 'starting' | 'live' | 'asking' | 'away';

/**
 * The class that is taught on this device: its benches, open attempts and sheets, kept on the device and up to date
 * by sequence. A stream rings when something changed; what changed is asked for, so that a lost, late or doubled ring
 * does no harm. Everything here is readable without a network.
 */
export const useClassroom = defineStore('classroom', () => {
  const queue = useQueue();
  const session = useSession();
  const classId = shallowRef('');
  const detail = shallowRef<ClassDetail | null>(null);
  const day = shallowRef('');
  const tiles = shallowRef<readonly TodayTile[] | null>(null);
  const attempts = shallowRef<ReadonlyMap<string, KeptAttempt>>(new Map());
  const references = shallowRef<readonly ClassReference[]>([]);
  const shelf = sheetShelf();
  const connection = shallowRef<ConnectionState>('starting');
  /** How far the server's clock is ahead of this device's, ms. */
  const offsetMs = shallowRef(0);
  const refusal = shallowRef<Refusal | null>(null);

  const question = classQuestion({
    classId: () => classId.value,
    knowsNothing: () => tiles.value === null,
    put: catchUp,
    failed: (error) => {
      if (error instanceof Refusal) refusal.value = error;
      connection.value = 'away';
    },
  });
  const { ask } = question;
  const stream = classStream((withClass) => {
    if (withClass) {
      question.wantWhole();
      classChanged(classId.value);
    }
    void ask();
  }, hear);
  const copy = classCopy(() =>
    classId.value === ''
      ? null
      : {
          classId: classId.value,
          detail: detail.value,
          day: day.value,
          tiles: tiles.value ?? [],
          attempts: [...attempts.value.values()],
          references: references.value,
          savedAt: new Date().toISOString(),
        },
  );
  let opening: Promise<void> = Promise.resolve();

  /** Follows a class. Resolved when it is known, from the device or from the server, or cannot be. */
  function open(id: string): Promise<void> {
    if (classId.value !== id || id === '') opening = begin(id);
    return opening;
  }
  async function begin(id: string): Promise<void> {
    close();
    classId.value = id;
    if (id === '') return;
    const known = await deviceStore.classCopy(id).catch(() => null);
    if (classId.value !== id) return;
    if (known) {
      detail.value = known.detail;
      day.value = known.day;
      tiles.value = known.tiles;
      references.value = known.references;
      await shelf.needAll(known.attempts.map((a) => a.methodVersionId)).catch(() => undefined);
      attempts.value = new Map(known.attempts.map((a) => [a.id, kept(a)]));
    }
    stream.open(id);
    // A copy is as old as the last visit: trainees, tools and methods may be others by now.
    question.wantWhole();
    await ask();
  }

  function close(): void {
    stream.close();
    classId.value = '';
    copy.close();
    detail.value = null;
    tiles.value = null;
    attempts.value = new Map();
    references.value = [];
    connection.value = 'starting';
    refusal.value = null;
  }

  /**
   * The class itself was changed here: trainees, tools, methods. What the change was answered with holds at once, so
   * that a sheet which is opened next does not judge by what was before; the rest is asked for again.
   */
  function renew(changed: ClassDetail | null = null): void {
    if (changed?.id === classId.value) detail.value = changed;
    question.wantWhole();
    void ask();
  }

  async function catchUp(id: string, all: boolean): Promise<void> {
    const known = knownOf(attempts.value, startedHere());
    const askClass = (): Promise<ClassDetail> => request(ROUTES.classDetail, { params: { id } });
    // Where the class is asked for in any case, both are asked at once.
    const [reply, alongside] = await Promise.all([
      request(ROUTES.catchUp, { params: { id }, body: { known, afresh: all } }),
      all ? askClass() : null,
    ]);
    if (classId.value !== id) return;
    if (all || detail.value === null || reply.tiles !== null) {
      const said = alongside ?? (await askClass());
      // Changed here while it was asked for: it is asked for again, and what came may be older than the change.
      if (!question.wantsWhole() || detail.value === null) detail.value = said;
    }
    await shelf.needAll(reply.attempts.map((a) => a.methodVersionId));
    if (classId.value !== id) return;
    await take(reply);
    if (classId.value !== id) return;
    refusal.value = null;
    connection.value = stream.heardLately() ? 'live' : 'asking';
    // Those of the methods in use as well: a piece may be started by any of them without a network.
    const inUse = (detail.value?.methods ?? []).filter((m) => m.inUse);
    void shelf.needAll(inUse.map((m) => m.versionId)).catch(() => undefined);
  }

  /** Entries as the stream brings them; where something is missing before them the server is asked. */
  function hear(news: EntriesNews): void {
    offsetMs.value = offsetOf(news.now, Date.now());
    const { attempts: next, ask: missing } = withNews(attempts.value, news, session.deviceId);
    if (next !== attempts.value) {
      attempts.value = next;
      copy.keepSoon();
    }
    if (missing) void ask();
  }

  async function take(reply: CatchUp): Promise<void> {
    offsetMs.value = offsetOf(reply.now, Date.now());
    day.value = reply.day;
    const there = new Set(reply.references.map((r) => r.id));
    const onTheWay = new Set(queue.items.flatMap((q) => (q.reference ? [q.id] : [])));
    references.value = [
      ...references.value.filter((r) => onTheWay.has(r.id) && !there.has(r.id)),
      ...reply.references,
    ];
    if (reply.tiles) tiles.value = reply.tiles;
    // A piece that is closed counts in every view of the class.
    if (reply.closed.length > 0) classChanged(classId.value);
    const before = attempts.value;
    const next = merge(before, reply.attempts, reply.closed, session.deviceId);
    if (reply.attempts.some((a) => next.get(a.id)?.incomplete)) question.askAgain();
    const opensNew = reply.attempts.some((a) => !before.has(a.id));
    // What is open already shows what is newer at once.
    if (!opensNew) attempts.value = next;
    // What can be opened from now on is on the device first: the network may be gone a second later.
    if (!copy.isThere() || opensNew) await copy.keepNow({ attempts: [...next.values()] });
    else copy.keepSoon();
    // Entries may have come by the stream while it was written.
    if (opensNew && next !== before) {
      attempts.value =
        attempts.value === before
          ? next
          : merge(attempts.value, reply.attempts, reply.closed, session.deviceId);
    }
  }

  const startedHere = (): ReadonlySet<string> =>
    new Set(queue.items.flatMap((q) => (q.start && q.state === 'waiting' ? [q.start.body.id] : [])));

  /** A piece that was started on this device, before the server knows of it. */
  function adopt(attempt: OpenAttempt): void {
    attempts.value = new Map([[attempt.id, kept(attempt)], ...attempts.value]);
    // Nobody else knows of it yet: kept at once.
    void copy.keepNow();
  }

  /** An entry of this device that the server has acknowledged. */
  function settle(attemptId: string, entry: StoredEntry): void {
    const attempt = attempts.value.get(attemptId);
    if (!attempt || attempt.entries.some((e) => e.id === entry.id)) return;
    attempts.value = new Map(attempts.value).set(attemptId, withEntries(attempt, [entry], session.deviceId));
    copy.keepSoon();
  }
  queue.onSettled((entry, receipt) => {
    if (receipt.state !== 'accepted') return;
    const { attemptId, ...stored } = entry;
    const at = receipt.at ?? stored.at;
    const claimed = receipt.at === undefined ? {} : { claimedAt: stored.at };
    settle(attemptId, { ...stored, at, ...claimed, seq: receipt.seq, clockOffsetMs: offsetMs.value });
  });

  function addReference(reference: ClassReference): void {
    references.value = [reference, ...references.value.filter((r) => r.id !== reference.id)];
    copy.keepSoon();
  }

  window.addEventListener('online', () => {
    if (classId.value !== '') stream.open(classId.value);
    void ask();
  });
  // What a stream still brings while the device says that it has no network is no state to rely on.
  window.addEventListener('offline', () => {
    stream.close();
    connection.value = 'away';
  });

  /** The class's day: as the server told it last, by its zone before that. */
  const today = (): string => day.value || dayIn(session.zoneOf(classId.value), new Date());

  return {
    classId,
    detail,
    day,
    today,
    tiles,
    attempts,
    references,
    connection,
    offsetMs,
    refusal,
    open,
    close,
    ask,
    renew,
    adopt,
    addReference,
    sheetFor: shelf.sheetFor,
  };
});
