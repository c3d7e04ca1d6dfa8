import { countedOutcome, type MethodSheet, type Outcome, workMinutes } from '@clear-mark/core';
import type { Database } from '../database/database.ts';
import { insertRows } from '../database/insert-rows.ts';
import type { AttemptRow } from './attempts.store.ts';
import { CHAINED_COLUMNS, type ChainedEntry } from './revision-hash.ts';

export interface RevisionRow {
  readonly id: string;
  readonly attempt_id: string;
  readonly class_id: string;
  readonly record_version: number;
  readonly revision: number;
  readonly kind: string;
  readonly class_seq: number;
  readonly signed_by: string;
  readonly signed_at: string;
  readonly last_seq: number;
  readonly evidence: string;
  readonly entries_digest: string;
  readonly scoring_version: number;
  readonly outcome: string;
  readonly reason: string | null;
  readonly reason_salt: string | null;
  readonly reason_digest: string | null;
  readonly previous_hash: string | null;
  readonly hash: string;
}

/** The whole attempt stands among the skills under this name. */
export const WHOLE = 'whole';

export interface OutcomeRows {
  readonly skills: Record<string, unknown>[];
  readonly criteria: Record<string, unknown>[];
  readonly losses: Record<string, unknown>[];
}

/** The minutes of work behind entries as they are stored. */
export const minutesOf = (startedAt: string, entries: readonly Record<string, unknown>[]): number | null =>
  workMinutes(
    Date.parse(startedAt),
    entries.map((e) => new Date(e['at'] as string | Date).getTime()),
  );

/** A signed outcome as rows for counting. */
export function outcomeRows(
  attempt: Pick<AttemptRow, 'id' | 'classId' | 'traineeId' | 'methodVersionId' | 'startedAt'>,
  sheet: MethodSheet,
  outcome: Outcome,
  minutes: number | null,
): OutcomeRows {
  const base = {
    attempt_id: attempt.id,
    class_id: attempt.classId,
    trainee_id: attempt.traineeId,
    method_id: sheet.id,
    started_at: attempt.startedAt,
  };
  const { whole, skills, criteria, losses } = countedOutcome(sheet, outcome);
  return {
    skills: [...skills, { skill: WHOLE, mark: whole }].map((s) => ({ ...base, ...s, minutes })),
    criteria: criteria.map(({ criterionId, ...c }) => ({ ...base, criterion_id: criterionId, ...c })),
    losses: losses.map((l) => ({
      ...base,
      method_version_id: attempt.methodVersionId,
      criterion_id: l.criterionId,
      wavelength_nm: l.wavelengthNm,
      direction: l.direction ?? '',
      fiber: l.fiber ?? 0,
      reference_method: l.referenceMethod,
      fiber_class: l.fiberClass,
      reference_id: l.referenceId,
      loss_db: l.lossDb,
      limit_db: l.limitDb,
      expected_db: l.expectedDb,
      mark: l.mark,
    })),
  };
}

export const signStore = (db: Database) => ({
  /** The class's chain, locked: records of a class are signed one after the other. */
  lockChain: async (classId: string): Promise<{ nextSeq: number; lastHash: string | null }> => {
    const row = await db('class_chains')
      .select('next_seq as nextSeq', 'last_hash as lastHash')
      .where({ class_id: classId })
      .forUpdate()
      .first<{ nextSeq: number; lastHash: string | null }>();
    return row!;
  },

  advanceChain: async (classId: string, nextSeq: number, lastHash: string): Promise<void> => {
    await db('class_chains').where({ class_id: classId }).update({ next_seq: nextSeq, last_hash: lastHash });
  },

  /** The entries of an attempt in order, with all that the hash covers. */
  chainedEntries: (attemptId: string): Promise<ChainedEntry[]> =>
    db('entries').select(CHAINED_COLUMNS).where({ attempt_id: attemptId }).orderBy('seq'),

  insertRevision: async (row: RevisionRow): Promise<void> => {
    await db('signed_revisions').insert(row);
  },

  markSigned: async (attemptId: string): Promise<void> => {
    await db('attempts').where({ id: attemptId }).update({ state: 'signed' });
  },

  /** Counting rows hold the newest revision only. */
  replaceOutcome: async (attemptId: string, rows: OutcomeRows): Promise<void> => {
    for (const [table, list] of [
      ['outcome_skills', rows.skills],
      ['outcome_criteria', rows.criteria],
      ['outcome_losses', rows.losses],
    ] as const) {
      await db(table).where({ attempt_id: attemptId }).del();
      await insertRows(db, table, list);
    }
  },
});
