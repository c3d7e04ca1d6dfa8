import { type EntryValue, standingIds } from '@clear-mark/core';
import type { AttemptEntry, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { sheetOfAttempt } from '../methods/index.ts';
import { attemptsStore } from './attempts.store.ts';
import { intakeRow } from './entries.store.ts';
import { intakeStore } from './intake.store.ts';

/** Values that the server computed for a piece at work, by the last part of their criteria's ids. */
export interface ComputedEntries {
  readonly attemptId: string;
  readonly classId: string;
  readonly values: readonly (readonly [name: string, value: EntryValue])[];
  /** These only where nothing stands: what somebody has seen goes before. */
  readonly whereOpen?: readonly (readonly [name: string, value: EntryValue])[];
  readonly me: Person;
  readonly now: Date;
}

/**
 * Enters computed values on an open sheet, each in place of what stood there, those of `whereOpen` where nothing did; criteria that the sheet does not have are left out. Gives how
 * many were entered. Errors: `not_found.attempt`, `trace.attempt_signed`.
 */
export async function enterComputed(
  db: Database,
  { attemptId, classId, values, whereOpen = [], me, now }: ComputedEntries,
): Promise<number> {
  return db.transaction(async (trx) => {
    const store = attemptsStore(trx);
    const attempt = await store.lock(attemptId);
    if (!attempt || attempt.classId !== classId) throw new AppError('not_found.attempt');
    if (attempt.state !== 'open') throw new AppError('trace.attempt_signed');
    const sheet = await sheetOfAttempt(trx, attempt);
    const criteria = sheet.steps.flatMap((s) => s.criteria);
    const before = await store.entries(attemptId);
    const rows = [...values, ...whereOpen].flatMap(([name, value], i) => {
      const criterion = criteria.find((c) => c.id.endsWith(`/${name}`) && c.kind === value.kind);
      if (!criterion) return [];
      const standing = standingIds(before, criterion.id, '');
      if (i >= values.length && standing.length > 0) return [];
      const entry = {
        id: v7(),
        attemptId,
        kind: 'value' as const,
        criterionId: criterion.id,
        part: '',
        value: value as AttemptEntry['value'],
        voidReason: null,
        note: null,
        authorId: me.id,
        capacity: 'instructor' as const,
        deviceId: attemptId,
        source: 'computed' as const,
        at: now.toISOString(),
        supersedes: standing,
        targetId: null,
      };
      return [intakeRow(entry, 0, null)];
    });
    if (rows.length > 0) await intakeStore(trx).takeEntries(rows, now);
    return rows.length;
  });
}
