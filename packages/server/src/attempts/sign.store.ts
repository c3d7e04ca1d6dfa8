import {
  type Criterion,
  type CriterionOutcome,
  isLossPart,
  type MethodSheet,
  type Outcome,
  outcomeMark,
  parsePart,
  skillMark,
  SKILLS,
} from '@clear-mark/core';
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

/** An attempt that was open for longer was left lying: its time says nothing. */
const LONGEST_MINUTES = 240;

/** Minutes from the start to the last entry; null where there is none or it was left open for hours. */
export function minutesOf(startedAt: string, entries: readonly Record<string, unknown>[]): number | null {
  const last = Math.max(...entries.map((e) => new Date(e['at'] as string | Date).getTime()));
  const minutes = (last - new Date(startedAt).getTime()) / 60_000;
  return minutes >= 0 && minutes <= LONGEST_MINUTES ? minutes : null;
}

/** A signed outcome laid out for counting. */
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
  const isVoid = outcome.verdict === 'void';
  const skills: Record<string, unknown>[] = SKILLS.flatMap((skill) => {
    const mark = skillMark(outcome, skill);
    return mark === null ? [] : [{ ...base, skill, mark, minutes }];
  });
  skills.push({ ...base, skill: WHOLE, mark: outcomeMark(outcome.verdict, outcome.stopped), minutes });
  const byId = new Map(sheet.steps.flatMap((s) => s.criteria.map((c) => [c.id, c] as const)));
  const counted = isVoid ? [] : outcome.criteria.filter((c) => c.state === 'scored' || c.state === 'void');
  return {
    skills,
    criteria: counted.map((c) => ({
      ...base,
      criterion_id: c.criterionId,
      skill: c.skill,
      mark: outcomeMark(c.verdict, c.stop),
      points: c.points,
      lost: c.state === 'scored' ? c.points - c.earned : 0,
      value: c.value,
      faults: c.faults,
    })),
    losses: counted.flatMap((c) => lossRows(base, attempt.methodVersionId, c, byId.get(c.criterionId)!)),
  };
}

function lossRows(
  base: Record<string, unknown>,
  methodVersionId: string,
  outcome: CriterionOutcome,
  criterion: Criterion,
): Record<string, unknown>[] {
  if (criterion.kind !== 'loss') return [];
  return outcome.parts
    .filter(isLossPart)
    .filter((part) => part.verdict !== 'incomplete')
    .map((part) => ({ part, ...parsePart(part.part) }))
    .map(({ part, fiber, wavelengthNm, direction }) => ({
      ...base,
      method_version_id: methodVersionId,
      criterion_id: outcome.criterionId,
      wavelength_nm: wavelengthNm,
      direction: direction ?? '',
      fiber: fiber ?? 0,
      reference_method: criterion.link.referenceMethod,
      fiber_class: criterion.link.fiberClass,
      reference_id: part.referenceId,
      // A void reading leaves every loss sample, whatever number it shows.
      loss_db: part.verdict === 'void' ? null : part.lossDb,
      limit_db: part.limitDb,
      expected_db: part.expectedDb,
      mark: outcomeMark(part.verdict, false),
    }));
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
