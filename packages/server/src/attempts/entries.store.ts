import { type Entry, parsePart, UNITS } from '@clear-mark/core';
import type { AttemptEntry } from '@clear-mark/contract';
import { newSalt, saltedDigest } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { insertRows } from '../database/insert-rows.ts';
import { keepsShowing } from '../stamps/index.ts';
import { stampOf } from './why-refused.ts';

export interface SequencedEntry extends Entry {
  readonly attemptId: string;
  readonly seq: number;
  readonly clockOffsetMs: number;
  /** Who handed it in, where that was not its author. */
  readonly deliveredBy: string | null;
}

export const entriesStore = (db: Database) => ({
  /** Puts entries in that are known to be right: those of the server itself, and of a loader. */
  insert: async (entries: readonly SequencedEntry[]): Promise<void> => {
    const notes = entries.flatMap((e) =>
      e.note === null ? [] : [{ entry_id: e.id, salt: newSalt(), text: e.note }],
    );
    const digests = new Map(notes.map((n) => [n.entry_id, saltedDigest(n.text, n.salt)]));
    await insertRows(
      db,
      'entries',
      entries.map((e) => ({
        id: e.id,
        attempt_id: e.attemptId,
        seq: e.seq,
        kind: e.kind,
        criterion_id: e.criterionId,
        part: e.part,
        value: e.value,
        void_reason: e.voidReason,
        note_digest: digests.get(e.id) ?? null,
        author_id: e.authorId,
        capacity: e.capacity,
        device_id: e.deviceId,
        source: e.source,
        at: e.at,
        clock_offset_ms: e.clockOffsetMs,
        supersedes: e.supersedes,
        target_id: e.targetId,
        delivered_by: e.deliveredBy,
      })),
    );
    await insertRows(db, 'entry_notes', notes);
    await insertRows(db, 'readings', entries.flatMap(readingOf));
  },

  setNextSeq: async (attemptId: string, nextSeq: number): Promise<void> => {
    await db('attempts').where({ id: attemptId }).update({ next_seq: nextSeq });
  },

  /** Whether all of these are entries of one attempt by one author. */
  areOf: async (attemptId: string, ids: readonly string[], authorId: string): Promise<boolean> => {
    const distinct = [...new Set(ids)];
    const found = await db('entries')
      .where({ attempt_id: attemptId, author_id: authorId })
      .whereIn('id', distinct)
      .pluck('id');
    return found.length === distinct.length;
  },

  /** Its author stands by an entry that another person handed in. True when that is new. */
  confirm: async (entryIds: readonly string[], by: string, at: Date): Promise<void> => {
    await db.raw(
      `insert into entry_confirmations (entry_id, by, at)
       select e.id, ?, ? from entries e
        where e.id = any(?::uuid[]) and e.author_id = ? and e.delivered_by is not null on conflict do nothing`,
      [by, at, entryIds as never, by],
    );
  },

  insertUnmerged: async (entry: AttemptEntry, reason: string): Promise<void> => {
    await db('unmerged_entries')
      .insert({
        id: entry.id,
        attempt_id: entry.attemptId,
        entry: JSON.stringify(entry),
        author_id: entry.authorId,
        reason,
      })
      .onConflict('id')
      .ignore();
  },
});

/** An entry as the one statement of the intake takes it. */
export type IntakeRow = Readonly<Record<string, unknown>>;

export function intakeRow(entry: AttemptEntry, offsetMs: number, deliveredBy: string | null): IntakeRow {
  const salt = entry.note === null ? null : newSalt();
  const [reading] = readingOf({ ...entry, seq: 0, clockOffsetMs: offsetMs, deliveredBy });
  const stamp = stampOf(entry.value);
  return {
    id: entry.id,
    attempt_id: entry.attemptId,
    kind: entry.kind,
    criterion_id: entry.criterionId,
    part: entry.part,
    value: entry.value,
    void_reason: entry.voidReason,
    note: entry.note,
    note_salt: salt,
    note_digest: entry.note === null || salt === null ? null : saltedDigest(entry.note, salt),
    author_id: entry.authorId,
    capacity: entry.capacity,
    device_id: entry.deviceId,
    source: entry.source,
    at: entry.at,
    clock_offset_ms: offsetMs,
    supersedes: entry.supersedes,
    target_id: entry.targetId,
    delivered_by: deliveredBy,
    reading: reading ?? null,
    ...(stamp ? { stamp_thing: stamp.thingId, stamp_at: stamp.at, stamp_keeps: keepsShowing(stamp) } : {}),
  };
}

function readingOf(entry: SequencedEntry): Record<string, unknown>[] {
  if (entry.value?.kind !== 'loss' || !(entry.value.unit in UNITS)) return [];
  const { fiber, wavelengthNm, direction } = parsePart(entry.part);
  const stamp = entry.value.instrument;
  return [
    {
      entry_id: entry.id,
      attempt_id: entry.attemptId,
      reference_id: entry.value.referenceId,
      wavelength_nm: wavelengthNm,
      direction: direction ?? '',
      fiber,
      value_text: entry.value.text ?? null,
      unit: entry.value.unit,
      no_light: entry.value.noLight ?? false,
      at: entry.at,
      instrument_id: stamp?.thingId ?? null,
      taken_at: stamp?.at ?? null,
      calibrated_on: stamp?.calibratedOn ?? null,
    },
  ];
}
