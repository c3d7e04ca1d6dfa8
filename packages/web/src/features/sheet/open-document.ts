import type { AttemptDocument, ClassDetail } from '@clear-mark/contract';
import type { MethodSheet } from '@clear-mark/core';
import type { KeptAttempt } from '../../storage/kept-attempt.ts';

/** An open attempt of the class as a document. */
export function documentOf(
  attempt: KeptAttempt,
  sheet: MethodSheet,
  { id: classId, policy, timeZone }: Pick<ClassDetail, 'id' | 'policy' | 'timeZone'>,
): AttemptDocument {
  const { id, traineeId, traineeName, methodVersionId, pieceId, pieceLabel, startedAt, things } = attempt;
  const head = { id, traineeId, traineeName, methodVersionId, pieceId, pieceLabel, startedAt, things };
  return {
    attempt: { ...head, classId, state: 'open', claimedStartedAt: attempt.claimedStartedAt ?? null },
    sheet,
    policy,
    timeZone,
    entries: [],
    references: [],
    revisions: [],
    late: [],
    notices: [],
  };
}
