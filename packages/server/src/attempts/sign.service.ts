import { type Outcome, score } from '@clear-mark/core';
import type { Person, Revision } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { digestOf, newSalt, saltedDigest } from '../chain/index.ts';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../http/app-error.ts';
import { sheetDigest, sheetOfAttempt } from '../methods/index.ts';
import { referencesStore } from '../references/index.ts';
import { type AttemptRow, attemptsStore } from './attempts.store.ts';
import { revisionHash } from './revision-hash.ts';
import { minutesOf, outcomeRows, signStore } from './sign.store.ts';

interface SignRequest {
  readonly entryIds: readonly string[];
  readonly reason: string | null;
  readonly asVoid: boolean;
}

export const signService = (db: Database) => ({
  sign: (attemptId: string, request: SignRequest, me: Person, now: Date): Promise<Revision> =>
    db.transaction((trx) => signWithin(trx, attemptId, request, me, now)),
});

/**
 * Signs an attempt from exactly the entries that the signer saw, within a transaction: the attempt's row is
 * locked, so that of two devices signing at once the second finds it signed.
 * Errors: `attempt.signed`, `sign.entries_differ`, `sign.conflict`, `sign.reason_needed`.
 */
export async function signWithin(
  trx: Database,
  attemptId: string,
  request: SignRequest,
  me: Person,
  now: Date,
): Promise<Revision> {
  const attempt = await attemptsStore(trx).lock(attemptId);
  if (!attempt) throw new AppError('not_found.attempt');
  const { policy } = await classForInstructor(trx, attempt.classId, me);
  if (attempt.state === 'signed') throw new AppError('attempt.signed');
  const entries = await attemptsStore(trx).entries(attemptId);
  requireSameIds(
    entries.map((e) => e.id),
    request.entryIds,
  );
  const sheet = await sheetOfAttempt(trx, attempt);
  const outcome = score(sheet, entries, {
    references: await referencesStore(trx).forAttempt(attempt.classId, attemptId, 0),
    final: true,
    marginalPassCounts: policy.marginalPassCounts,
    marginalFailCounts: policy.marginalFailCounts,
    attemptVoid: request.asVoid,
  });
  return record(trx, attempt, { outcome, kind: kindOf(outcome, request), reason: request.reason, me, now });
}

function requireSameIds(stored: readonly string[], seen: readonly string[]): void {
  const known = new Set(seen);
  if (known.size !== stored.length || stored.some((id) => !known.has(id))) {
    throw new AppError('sign.entries_differ', { stored: stored.length, seen: known.size });
  }
}

function kindOf(outcome: Outcome, request: SignRequest): Revision['kind'] {
  if (request.asVoid) {
    if (request.reason === null) throw new AppError('sign.reason_needed');
    return 'void';
  }
  if (outcome.conflicts.length > 0) throw new AppError('sign.conflict', { count: outcome.conflicts.length });
  if (outcome.verdict !== 'incomplete') return 'signed';
  if (request.reason === null) throw new AppError('sign.reason_needed');
  return 'signed_incomplete';
}

interface Decided {
  readonly outcome: Outcome;
  readonly kind: Revision['kind'];
  readonly reason: string | null;
  readonly me: Person;
  readonly now: Date;
}

async function record(trx: Database, attempt: AttemptRow, decided: Decided): Promise<Revision> {
  const { outcome, kind, reason, me } = decided;
  const store = signStore(trx);
  const sheet = await sheetOfAttempt(trx, attempt);
  const chain = await store.lockChain(attempt.classId);
  const chained = await store.chainedEntries(attempt.id);
  const salt = reason === null ? null : newSalt();
  const reasonDigest = reason === null || salt === null ? null : saltedDigest(reason, salt);
  const signedAt = decided.now.toISOString();
  const entryIds = chained.map((e) => String(e['id']));
  const entriesDigest = digestOf(chained);
  const revision = 1;
  const hash = revisionHash({
    classId: attempt.classId,
    classSeq: chain.nextSeq,
    attemptId: attempt.id,
    traineeId: attempt.traineeId,
    pieceId: attempt.pieceId,
    methodVersionId: attempt.methodVersionId,
    methodDigest: sheetDigest(sheet),
    revision,
    kind,
    signedBy: me.id,
    signedAt,
    entryIds,
    entriesDigest,
    scoringVersion: outcome.scoringVersion,
    outcome,
    reasonDigest,
    previousHash: chain.lastHash,
  });
  await store.insertRevision({
    id: v7(),
    attempt_id: attempt.id,
    class_id: attempt.classId,
    revision,
    kind,
    class_seq: chain.nextSeq,
    signed_by: me.id,
    signed_at: signedAt,
    entry_ids: entryIds,
    entries_digest: entriesDigest,
    scoring_version: outcome.scoringVersion,
    outcome: JSON.stringify(outcome),
    reason,
    reason_salt: salt,
    reason_digest: reasonDigest,
    previous_hash: chain.lastHash,
    hash,
  });
  const minutes = minutesOf(attempt.startedAt, chained);
  await store.replaceOutcome(attempt.id, outcomeRows(attempt, sheet, outcome, minutes));
  await store.advanceChain(attempt.classId, chain.nextSeq + 1, hash);
  await store.markSigned(attempt.id);
  return {
    revision,
    kind,
    signedAt,
    signedBy: me.name,
    reason,
    hash,
    previousHash: chain.lastHash,
    outcome,
  };
}
