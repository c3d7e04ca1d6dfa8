import { createHash } from 'node:crypto';
import { MOST_KEPT_TRACE_BYTES, type Person, type TraceAbout, type TraceRow } from '@clear-mark/contract';
import { DomainError, openTraceFile } from '@clear-mark/core';
import { classForInstructor } from '../classes/index.ts';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { tracesStore } from './traces.store.ts';

/** Traces that one person may keep in an hour: more than a walk along the panels of a hall. */
const MOST_AN_HOUR = 600;

const NOTHING_SAID = {
  linkId: null,
  fiber: null,
  direction: null,
  launchM: null,
  receiveM: null,
  attemptId: null,
} as const;
export const onlyLabel = (label: string): TraceAbout => ({ label, ...NOTHING_SAID });

export interface TraceToKeep {
  readonly id: string;
  readonly bytes: Buffer;
  readonly about: TraceAbout;
  readonly source: TraceRow['source'];
}

export const tracesService = (db: Database) => ({
  /** Whether this person may send a file of this size now: asked before any of it is read. */
  mayPut: async (classId: string, size: number | null, me: Person): Promise<void> => {
    await classForInstructor(db, classId, me);
    if (size === null) throw new AppError('trace.size_missing');
    if (size > MOST_KEPT_TRACE_BYTES) throw tooLarge(size);
    if ((await tracesStore(db).takenLately(me.id)) >= MOST_AN_HOUR) throw new AppError('trace.too_many');
  },

  list: async (classId: string, me: Person): Promise<TraceRow[]> => {
    await classForInstructor(db, classId, me);
    return tracesStore(db).list(classId);
  },

  file: async (classId: string, id: string, me: Person): Promise<Buffer> => {
    await classForInstructor(db, classId, me);
    const found = await tracesStore(db).file(classId, id);
    if (!found) throw new AppError('not_found.trace');
    return found.bytes;
  },

  describe: async (classId: string, id: string, about: TraceAbout, me: Person): Promise<TraceRow> => {
    await classForInstructor(db, classId, me);
    return db.transaction(async (trx) => {
      const before = await tracesStore(trx).byId(classId, id);
      if (!before) throw new AppError('not_found.trace');
      await requireAbout(trx, classId, about, before.attemptId);
      await tracesStore(trx).describe(classId, id, about);
      return (await tracesStore(trx).byId(classId, id))!;
    });
  },

  keep: async (classId: string, trace: TraceToKeep, me: Person, now: Date): Promise<TraceRow> => {
    await classForInstructor(db, classId, me);
    return keepTrace(db, classId, trace, me, now);
  },
});

/** Keeps a file once it was read through. Sent again under its id it is no harm. Errors: those of `openTraceFile`, `trace.*`. */
export async function keepTrace(
  db: Database,
  classId: string,
  { id, bytes, about, source }: TraceToKeep,
  me: Person,
  now: Date,
): Promise<TraceRow> {
  if (bytes.length > MOST_KEPT_TRACE_BYTES) throw tooLarge(bytes.length);
  const [trace] = openTraceFile(bytes, source === 'file' ? about.label : '').traces;
  if (!trace) throw new DomainError('trace.no_trace_file', {});
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  await createOnce(
    () =>
      db.transaction(async (trx) => {
        await requireAbout(trx, classId, about, null);
        await tracesStore(trx).insert({
          id,
          classId,
          sha256,
          bytes,
          about,
          source,
          wavelengthNm: trace.wavelengthNm,
          pulseNs: trace.pulseNs,
          points: trace.levelsDb.length,
          takenAt: now,
          takenBy: me.id,
        });
        return sha256;
      }),
    async () => (await tracesStore(db).file(classId, id))?.sha256 ?? null,
    (kept) => kept === sha256,
  );
  return (await tracesStore(db).byId(classId, id))!;
}

/** What is said of a trace may name what is there; a signed attempt takes nothing any more, and lets nothing go. */
async function requireAbout(
  trx: Database,
  classId: string,
  { linkId, attemptId }: TraceAbout,
  was: string | null,
): Promise<void> {
  const store = tracesStore(trx);
  if (linkId !== null && !(await store.hasLink(classId, linkId))) throw new AppError('not_found.link');
  if (attemptId === was) return;
  for (const id of [attemptId, was]) {
    if (id === null) continue;
    const state = await store.lockAttempt(classId, id);
    if (state === null) throw new AppError('not_found.attempt');
    if (state !== 'open') throw new AppError('trace.attempt_signed');
  }
}

const tooLarge = (bytes: number): AppError =>
  new AppError('trace.too_large', {
    megabytes: Math.ceil(bytes / 1e6),
    most: MOST_KEPT_TRACE_BYTES / 1e6,
  });
