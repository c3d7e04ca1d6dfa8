import { countedOutcome, type MethodSheet, type Outcome, workMinutes } from '@clear-mark/core';
import type { Database } from '../database/database.ts';
import { insertOf, insertRows, type NewRow } from '../database/insert-rows.ts';
import { joined, own, rowsOf, sql } from '../database/sql.ts';
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
  readonly evidence: unknown;
  readonly entries_digest: string;
  readonly scoring_version: number;
  readonly outcome: unknown;
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
    // Column by column: there are dozens a piece, and rest and spread would take most of the time.
    criteria: criteria.map((c) => ({
      attempt_id: attempt.id,
      class_id: attempt.classId,
      trainee_id: attempt.traineeId,
      method_id: sheet.id,
      started_at: attempt.startedAt,
      criterion_id: c.criterionId,
      skill: c.skill,
      mark: c.mark,
      points: c.points,
      lost: c.lost,
      value: c.value,
      faults: c.faults,
    })),
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

/** The tables that are counted by, with the part of `OutcomeRows` that each has. */
export const OUTCOME_TABLES = [
  ['outcome_skills', 'skills'],
  ['outcome_criteria', 'criteria'],
  ['outcome_losses', 'losses'],
] as const;

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

  /** The entries of an attempt in order, with all that the hash covers. */
  chainedEntries: (attemptId: string): Promise<ChainedEntry[]> =>
    db('entries').select(CHAINED_COLUMNS).where({ attempt_id: attemptId }).orderBy('seq'),

  /** A revision with its counting rows, the end of the chain and the attempt's state: one statement. */
  keep: async (row: RevisionRow, rows: OutcomeRows): Promise<void> => {
    const inserts = [
      insertOf('signed_revisions', [row as unknown as NewRow]),
      ...OUTCOME_TABLES.flatMap(([table, name]) =>
        rows[name].length > 0 ? [insertOf(table, rows[name])] : [],
      ),
    ];
    const parts = inserts.map((insert, i) => sql`${own(`part${i}`)} as (${insert})`);
    const chain = sql`chain as (update class_chains set next_seq = ${row.class_seq + 1}, last_hash = ${row.hash}
                                 where class_id = ${row.class_id})`;
    await rowsOf(
      db,
      sql`with ${joined([...parts, chain], ', ')} update attempts set state = 'signed' where id = ${row.attempt_id}`,
    );
  },

  /** Takes the rows of an earlier revision away, before those of the next one come. */
  dropOutcome: (attemptId: string): Promise<void> => dropOutcome(db, attemptId),

  /** Counting rows hold the newest revision only. */
  replaceOutcome: async (attemptId: string, rows: OutcomeRows): Promise<void> => {
    await dropOutcome(db, attemptId);
    for (const [table, name] of OUTCOME_TABLES) await insertRows(db, table, rows[name]);
  },
});

async function dropOutcome(db: Database, attemptId: string): Promise<void> {
  for (const [table] of OUTCOME_TABLES) await db(table).where({ attempt_id: attemptId }).del();
}
