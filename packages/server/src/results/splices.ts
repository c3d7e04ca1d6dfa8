import {
  type Entry,
  type EntryValue,
  type MethodSheet,
  parsePart,
  resolveEntries,
  slotKey,
  typedOrNull,
} from '@clear-mark/core';
import type { SpliceRow } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';

/** The methods that splice, by the last part of their id; their criteria share their last parts. */
const SPLICING = ['single-fusion', 'ribbon-splice'];
/** Splices of a class that are shown: the newest. */
const MOST_ATTEMPTS = 400;

interface Row {
  readonly id: string;
  readonly traineeId: string;
  readonly traineeName: string;
  readonly pieceLabel: string;
  readonly startedAt: string;
  readonly state: string;
  readonly mark: string | null;
  readonly sheet: MethodSheet;
}

/** What each splice of a class measured, as its entries stand; the newest attempts, in the order of their making. */
export async function spliceRows(db: Database, classId: string): Promise<SpliceRow[]> {
  const attempts: Row[] = await db('attempts as a')
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
    .whereIn(
      'v.method_id',
      SPLICING.map((name) => `clear-mark/${name}`),
    )
    .orderBy('a.started_at', 'desc')
    .orderBy('a.id')
    .limit(MOST_ATTEMPTS);
  const entries: (Entry & { attemptId: string })[] = await db('entries')
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
    .whereIn(
      'attempt_id',
      attempts.map((a) => a.id),
    )
    .orderBy('seq');
  const byAttempt = new Map<string, Entry[]>();
  for (const { attemptId, ...entry } of entries) {
    byAttempt.set(attemptId, [...(byAttempt.get(attemptId) ?? []), entry as Entry]);
  }
  return attempts.reverse().flatMap((a) => rowsOf(a, byAttempt.get(a.id) ?? []));
}

function rowsOf(attempt: Row, entries: readonly Entry[]): SpliceRow[] {
  const slots = resolveEntries(entries);
  const criteria = attempt.sheet.steps.flatMap((s) => s.criteria);
  const idOf = (name: string): string | undefined => criteria.find((c) => c.id.endsWith(`/${name}`))?.id;
  const valueOf = (name: string, part = ''): EntryValue | null => {
    const id = idOf(name);
    const heads = id === undefined ? [] : (slots.get(slotKey(id, part))?.heads ?? []);
    return heads.length === 1 ? heads[0]!.value : null;
  };
  const number = (name: string, part = ''): number | null => {
    const value = valueOf(name, part);
    return value?.kind === 'measure' ? typedOrNull(value.text) : null;
  };
  const proof = valueOf('proof');
  const joint = valueOf('joint');
  const [forward, back] = [number('both-ways', 'a_b'), number('both-ways', 'b_a')];
  const base = {
    attemptId: attempt.id,
    traineeId: attempt.traineeId,
    traineeName: attempt.traineeName,
    pieceLabel: attempt.pieceLabel,
    at: new Date(attempt.startedAt).toISOString(),
    signed: attempt.state === 'signed',
    verdict: attempt.mark ?? '',
    joint: joint?.kind === 'grade' ? joint.level : null,
    proof: proof?.kind === 'check' ? proof.passed : null,
  };
  const ribbon = criteria.find((c) => c.id.endsWith('/estimates'));
  if (ribbon?.kind === 'readings') {
    return Array.from({ length: ribbon.fibers ?? 0 }, (_, i) => ({
      ...base,
      fiber: i + 1,
      leftDeg: null,
      rightDeg: null,
      estimateDb: number('estimates', `f${i + 1}`),
      meanDb: null,
    })).filter((row) => row.estimateDb !== null && parsePart(`f${row.fiber}`).fiber === row.fiber);
  }
  return [
    {
      ...base,
      fiber: null,
      leftDeg: number('angle-left'),
      rightDeg: number('angle-right'),
      estimateDb: number('estimate'),
      meanDb: forward !== null && back !== null ? (forward + back) / 2 : null,
    },
  ];
}
