import { type Outcome, score } from '@clear-mark/core';
import { type Person, type Revision, seenText } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { newSalt, saltedDigest, sha256 } from '../chain/index.ts';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { sheetDigest, sheetOfAttempt } from '../methods/index.ts';
import { referencesStore } from '../references/index.ts';
import { type AttemptRow, attemptsStore } from './attempts.store.ts';
import { evidenceStore } from './evidence.store.ts';
import { entriesDigest, revisionHash } from './revision-hash.ts';
import { minutesOf, outcomeRows, signStore } from './sign.store.ts';

interface SignRequest {
  /** Sequence number of the last entry that was seen, and the digest of the ids up to it. */
  readonly upTo: number;
  readonly digest: string;
  readonly reason: string | null;
  readonly asVoid: boolean;
}

export const signService = (db: Database) => ({
  sign: (attemptId: string, request: SignRequest, me: Person, now: Date): Promise<Revision> =>
    db.transaction((trx) => signWithin(trx, attemptId, request, me, now)),
});

/**
 * Signs an attempt from exactly the entries that the signer saw, which are named by a position in the log and a digest, within a transaction: the attempt's row is
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
  const { policy, timeZone } = await classForInstructor(trx, attempt.classId, me);
  if (attempt.state === 'signed') throw new AppError('attempt.signed');
  if (attempt.state === 'withdrawn') throw new AppError('attempt.withdrawn');
  const entries = await attemptsStore(trx).entries(attemptId);
  const stored = entries.map((e) => e.id);
  if (stored.length !== request.upTo || sha256(seenText(stored)) !== request.digest) {
    throw new AppError('sign.entries_differ', { stored: stored.length, seen: request.upTo });
  }
  const sheet = await sheetOfAttempt(trx, attempt);
  const outcome = score(sheet, entries, {
    references: await referencesStore(trx).forAttempt(attempt.classId, attemptId, 0),
    final: true,
    marginalPassCounts: policy.marginalPassCounts,
    marginalFailCounts: policy.marginalFailCounts,
    attemptVoid: request.asVoid,
    timeZone,
  });
  const kind = kindOf(outcome, request);
  return keepRevision(trx, attempt, { outcome, kind, reason: request.reason, me, now, revision: 1 });
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

export interface Decided {
  readonly revision: number;
  readonly outcome: Outcome;
  readonly kind: Revision['kind'];
  readonly reason: string | null;
  readonly me: Person;
  readonly now: Date;
}

/** Chains a revision to those of its class, with its rows for counting in the place of an earlier one's. */
export async function keepRevision(trx: Database, attempt: AttemptRow, decided: Decided): Promise<Revision> {
  const { outcome, kind, reason, me, revision } = decided;
  const store = signStore(trx);
  const sheet = await sheetOfAttempt(trx, attempt);
  const chain = await store.lockChain(attempt.classId);
  const chained = await store.chainedEntries(attempt.id);
  const salt = reason === null ? null : newSalt();
  const reasonDigest = reason === null || salt === null ? null : saltedDigest(reason, salt);
  const signedAt = decided.now.toISOString();
  const digest = entriesDigest(2, chained);
  const evidence = (await evidenceStore(trx).asOf([attempt.id], signedAt)).get(attempt.id)!;
  const hash = revisionHash({
    recordVersion: 2,
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
    startedAt: attempt.startedAt,
    lastSeq: chained.length,
    entriesDigest: digest,
    evidence,
    scoringVersion: outcome.scoringVersion,
    outcome,
    reasonDigest,
    previousHash: chain.lastHash,
  });
  const row = {
    id: v7(),
    attempt_id: attempt.id,
    class_id: attempt.classId,
    record_version: 2,
    revision,
    kind,
    class_seq: chain.nextSeq,
    signed_by: me.id,
    signed_at: signedAt,
    last_seq: chained.length,
    entries_digest: digest,
    evidence,
    scoring_version: outcome.scoringVersion,
    outcome,
    reason,
    reason_salt: salt,
    reason_digest: reasonDigest,
    previous_hash: chain.lastHash,
    hash,
  };
  const minutes = minutesOf(attempt.startedAt, chained);
  if (revision > 1) await store.dropOutcome(attempt.id);
  await store.keep(row, outcomeRows(attempt, sheet, outcome, minutes));
  return {
    revision,
    kind,
    signedAt,
    signedBy: me.name,
    reason,
    hash,
    previousHash: chain.lastHash,
    lastSeq: chained.length,
    outcome,
  };
}
