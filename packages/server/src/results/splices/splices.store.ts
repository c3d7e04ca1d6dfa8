import type { Entry, MethodSheet } from '@clear-mark/core';
import type { Database } from '../../database/database.ts';

export interface SplicedAttempt {
  readonly id: string;
  readonly traineeId: string;
  readonly traineeName: string;
  readonly pieceLabel: string;
  readonly startedAt: string;
  readonly state: string;
  readonly mark: string | null;
  readonly sheet: MethodSheet;
}

export const splicesStore = (db: Database) => ({
  /** The newest attempts of a class by some methods, the newest first. */
  newest: (classId: string, methodIds: readonly string[], most: number): Promise<SplicedAttempt[]> =>
    db('attempts as a')
      .join('people as p', 'p.id', 'a.trainee_id')
      .join('pieces as i', 'i.id', 'a.piece_id')
      .join('method_versions as v', 'v.id', 'a.method_version_id')
      .leftJoin('outcome_skills as o', (join) => join.on('o.attempt_id', 'a.id').andOnVal('o.skill', 'whole'))
      .select([
        'a.id',
        'a.trainee_id as traineeId',
        'p.name as traineeName',
        'i.label as pieceLabel',
        'a.started_at as startedAt',
        'a.state',
        'o.mark',
        'v.sheet',
      ])
      .where('a.class_id', classId)
      .whereNot('a.state', 'withdrawn')
      .whereIn('v.method_id', methodIds as string[])
      .orderBy('a.started_at', 'desc')
      .orderBy('a.id')
      .limit(most),

  entries: (attemptIds: readonly string[]): Promise<(Entry & { attemptId: string })[]> =>
    db('entries')
      .select([
        'id',
        'attempt_id as attemptId',
        'kind',
        'criterion_id as criterionId',
        'part',
        'value',
        'capacity',
        'supersedes',
        'target_id as targetId',
      ])
      .whereIn('attempt_id', attemptIds as string[])
      .orderBy('seq'),
});
