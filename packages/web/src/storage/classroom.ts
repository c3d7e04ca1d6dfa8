import { applySchools, type MethodSheet } from '@clear-mark/core';
import {
  type CatchUp,
  type ClassDetail,
  type ClassReference,
  EVENT_PATHS,
  type OpenAttempt,
  type StoredEntry,
  type TodayTile,
} from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { call, NoServer, pathOf, Refusal, ROUTES } from '../api/client.ts';
import { deviceStore } from './device-store.ts';
import { knownOf, merge, offsetOf } from './classroom.model.ts';
import { useQueue } from './queue.ts';

export type ClassLink = 'starting' | 'live' | 'asking' | 'away';

/** Without a word from the stream for so long the device asks by itself: a proxy may hold the words back. */
const SILENT_MS = 15_000;
const ASK_EVERY_MS = 4000;
const KEEP_AFTER_MS = 700;
const RINGS_TOGETHER_MS = 200;

/**
 * The class that is taught on this device: its benches, open attempts and sheets, kept on the device and up to date
 * by sequence. A stream rings when something changed; what changed is asked for, so that a lost, late or doubled ring
 * does no harm. Everything here is readable without a network.
 */
export const useClassroom = defineStore('classroom', () => {
  const queue = useQueue();
  const classId = shallowRef('');
  const detail = shallowRef<ClassDetail | null>(null);
  const day = shallowRef('');
  const tiles = shallowRef<readonly TodayTile[] | null>(null);
  const attempts = shallowRef<ReadonlyMap<string, OpenAttempt>>(new Map());
  const references = shallowRef<readonly ClassReference[]>([]);
  const sheets = shallowRef<ReadonlyMap<string, MethodSheet>>(new Map());
  const link = shallowRef<ClassLink>('starting');
  /** How far the server's clock is ahead of this device's, ms. */
  const offsetMs = shallowRef(0);
  const refusal = shallowRef<Refusal | null>(null);

  let stream: EventSource | null = null;
  let lastHeard = 0;
  let asking = false;
  let again = false;
  let watch: ReturnType<typeof setInterval> | null = null;
  let soon: ReturnType<typeof setTimeout> | null = null;
  let keeping: ReturnType<typeof setTimeout> | null = null;

  async function open(id: string): Promise<void> {
    if (classId.value === id && id !== '') return void ask();
    close();
    classId.value = id;
    if (id === '') return;
    const copy = await deviceStore.classCopy(id).catch(() => null);
    if (classId.value !== id) return;
    if (copy) {
      detail.value = copy.detail;
      day.value = copy.day;
      tiles.value = copy.tiles;
      references.value = copy.references;
      await sheetsOf(copy.attempts);
      attempts.value = new Map(copy.attempts.map((a) => [a.id, a]));
    }
    listen(id);
    watch = setInterval(() => {
      if (Date.now() - lastHeard > SILENT_MS) void ask();
      if (stream?.readyState === EventSource.CLOSED) listen(id);
    }, ASK_EVERY_MS);
    await ask();
  }

  function close(): void {
    stream?.close();
    stream = null;
    if (watch) clearInterval(watch);
    watch = null;
    classId.value = '';
    detail.value = null;
    tiles.value = null;
    attempts.value = new Map();
    references.value = [];
    link.value = 'starting';
    refusal.value = null;
  }

  function listen(id: string): void {
    stream?.close();
    stream = new EventSource(pathOf(EVENT_PATHS.class, { id }));
    stream.onmessage = () => {
      lastHeard = Date.now();
      askSoon();
    };
  }

  /** Rings that come close together are one question: well within the second that a score may take to arrive. */
  function askSoon(): void {
    soon ??= setTimeout(() => {
      soon = null;
      void ask();
    }, RINGS_TOGETHER_MS);
  }

  /** One question at a time; what rings meanwhile is asked for afterwards. */
  async function ask(): Promise<void> {
    if (asking) {
      again = true;
      return;
    }
    const id = classId.value;
    if (id === '') return;
    asking = true;
    try {
      do {
        again = false;
        await catchUp(id);
      } while (again && classId.value === id);
    } catch (error) {
      if (error instanceof Refusal) refusal.value = error;
      link.value = 'away';
    } finally {
      asking = false;
    }
  }

  async function catchUp(id: string): Promise<void> {
    const known = tiles.value === null ? {} : knownOf(attempts.value, startedHere());
    const reply = await call(ROUTES.catchUp, { params: { id }, body: { known } });
    if (classId.value !== id) return;
    if (detail.value === null || reply.tiles !== null) {
      detail.value = await call(ROUTES.classDetail, { params: { id } });
    }
    await sheetsOf(reply.attempts);
    if (classId.value !== id) return;
    take(reply);
    refusal.value = null;
    link.value = Date.now() - lastHeard < SILENT_MS ? 'live' : 'asking';
    void sheetsInUse();
  }

  function take(reply: CatchUp): void {
    offsetMs.value = offsetOf(reply.now, Date.now());
    day.value = reply.day;
    const there = new Set(reply.references.map((r) => r.id));
    const onTheWay = new Set(queue.items.flatMap((q) => (q.reference ? [q.id] : [])));
    references.value = [
      ...references.value.filter((r) => onTheWay.has(r.id) && !there.has(r.id)),
      ...reply.references,
    ];
    if (reply.tiles) tiles.value = reply.tiles;
    const next = merge(attempts.value, reply.attempts, reply.closed);
    if (next !== attempts.value) attempts.value = next;
    keepSoon();
  }

  const startedHere = (): ReadonlySet<string> =>
    new Set(queue.items.flatMap((q) => (q.start && q.state === 'waiting' ? [q.start.body.id] : [])));

  /** A piece that was started on this device, before the server knows of it. */
  function adopt(attempt: OpenAttempt): void {
    attempts.value = new Map([[attempt.id, attempt], ...attempts.value]);
    keepSoon();
  }

  /** An entry of this device that the server has acknowledged. */
  function settle(attemptId: string, entry: StoredEntry): void {
    const attempt = attempts.value.get(attemptId);
    if (!attempt || attempt.entries.some((e) => e.id === entry.id)) return;
    attempts.value = new Map(attempts.value).set(attemptId, {
      ...attempt,
      entries: [...attempt.entries, entry],
    });
    keepSoon();
  }
  queue.onSettled((entry, receipt) => {
    if (receipt.state !== 'accepted') return;
    const { attemptId, ...stored } = entry;
    settle(attemptId, { ...stored, seq: receipt.seq, clockOffsetMs: offsetMs.value });
  });

  function addReference(reference: ClassReference): void {
    references.value = [reference, ...references.value.filter((r) => r.id !== reference.id)];
    keepSoon();
  }

  /** The sheet that an attempt is scored by, when this device has it. */
  function sheetFor(attempt: Pick<OpenAttempt, 'methodVersionId' | 'schools'>): MethodSheet | null {
    const sheet = sheets.value.get(attempt.methodVersionId);
    return sheet ? applySchools(sheet, attempt.schools) : null;
  }

  async function sheetsOf(list: readonly Pick<OpenAttempt, 'methodVersionId'>[]): Promise<void> {
    const wanted = [...new Set(list.map((a) => a.methodVersionId))];
    for (const versionId of wanted) await needSheet(versionId);
  }
  /** Those of the methods in use as well: a piece may be started by any of them without a network. */
  async function sheetsInUse(): Promise<void> {
    for (const m of detail.value?.methods ?? []) {
      if (m.inUse) await needSheet(m.versionId).catch(() => undefined);
    }
  }
  async function needSheet(versionId: string): Promise<void> {
    if (sheets.value.has(versionId)) return;
    const kept = await deviceStore.sheet(versionId).catch(() => null);
    const sheet = kept ?? (await call(ROUTES.methodVersion, { params: { id: versionId } })).sheet;
    sheets.value = new Map(sheets.value).set(versionId, sheet);
    if (!kept) await deviceStore.keepSheet(versionId, sheet).catch(() => undefined);
  }

  function keepSoon(): void {
    keeping ??= setTimeout(() => {
      keeping = null;
      const copy = {
        classId: classId.value,
        detail: detail.value,
        day: day.value,
        tiles: tiles.value ?? [],
        attempts: [...attempts.value.values()],
        references: references.value,
        savedAt: new Date().toISOString(),
      };
      if (copy.classId !== '') void deviceStore.keepClass(copy).catch(() => undefined);
    }, KEEP_AFTER_MS);
  }

  window.addEventListener('online', () => void ask());
  window.addEventListener('offline', () => (link.value = 'away'));

  return {
    classId,
    detail,
    day,
    tiles,
    attempts,
    references,
    sheets,
    link,
    offsetMs,
    refusal,
    open,
    close,
    ask,
    adopt,
    addReference,
    sheetFor,
  };
});

export { NoServer };
