import {
  type Entry,
  type EntryValue,
  parsePart,
  resolveEntries,
  slotKey,
  typedOrNull,
} from '@clear-mark/core';
import type { SpliceRow } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import { type SplicedAttempt, splicesStore } from './splices.store.ts';

/** The methods that splice, by the last part of their id; their criteria share their last parts. */
const SPLICING = ['single-fusion', 'ribbon-splice'];
/** Splices of a class that are shown: the newest. */
const MOST_ATTEMPTS = 400;

/** What each splice of a class measured, as its entries stand; the newest attempts, in the order of their making. */
export async function spliceRows(db: Database, classId: string): Promise<SpliceRow[]> {
  const store = splicesStore(db);
  const attempts = await store.newest(
    classId,
    SPLICING.map((name) => `clear-mark/${name}`),
    MOST_ATTEMPTS,
  );
  const entries = await store.entries(attempts.map((a) => a.id));
  const byAttempt = new Map<string, Entry[]>();
  for (const { attemptId, ...entry } of entries) {
    byAttempt.set(attemptId, [...(byAttempt.get(attemptId) ?? []), entry as Entry]);
  }
  return attempts.reverse().flatMap((a) => rowsOf(a, byAttempt.get(a.id) ?? []));
}

function rowsOf(attempt: SplicedAttempt, entries: readonly Entry[]): SpliceRow[] {
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
  const forward = number('both-ways', 'a_b');
  const back = number('both-ways', 'b_a');
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
