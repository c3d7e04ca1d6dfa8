import { type Entry, parsePart, UNITS } from '@clear-mark/core';
import type { AttemptEntry } from '@clear-mark/contract';
import { newSalt, saltedDigest } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { insertRows } from '../database/insert-rows.ts';
import { ENTRY_COLUMNS } from './attempts.store.ts';

export interface SequencedEntry extends Entry {
  readonly attemptId: string;
  readonly seq: number;
  readonly clockOffsetMs: number;
  /** Who handed it in, where that was not its author. */
  readonly deliveredBy: string | null;
}

export const entriesStore = (db: Database) => ({
  byIds: (ids: readonly string[]): Promise<(AttemptEntry & { seq: number })[]> =>
    db('entries as e')
      .leftJoin('entry_notes as n', 'n.entry_id', 'e.id')
      .select(ENTRY_COLUMNS)
      .whereIn('e.id', ids as string[]),

  unmergedIds: async (ids: readonly string[]): Promise<Set<string>> =>
    new Set(
      await db('unmerged_entries')
        .whereIn('id', ids as string[])
        .pluck('id'),
    ),

  referenceIds: async (classId: string, ids: readonly string[]): Promise<Set<string>> =>
    ids.length === 0
      ? new Set()
      : new Set(
          await db('loss_references')
            .where({ class_id: classId })
            .whereIn('id', ids as string[])
            .pluck('id'),
        ),

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
