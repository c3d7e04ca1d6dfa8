import type { SeriesReading } from '@clear-mark/core';
import type { Person } from '@clear-mark/contract';
import { computedAttempt } from '../attempts/index.ts';
import type { Database } from '../database/database.ts';
import type { RunRow, SeriesRow } from './series.store.ts';

const METHOD = 'clear-mark/read-a-trace';

/** The figures of a reading as the criteria of the method have them; null where there is nothing to count. */
export function figuresOf(r: SeriesReading): readonly (readonly [name: string, value: number | null])[] {
  const share = (part: number, of: number): number | null => (of === 0 ? null : part / of);
  return [
    ['found', share(r.found, r.events)],
    ['named', share(r.named, r.found)],
    ['invented', r.invented / r.traces],
    ['ghosts', r.ghostsCalled],
    ['ends', share(r.endsFound, r.ends)],
    ['verdicts', share(r.verdictsRight, r.traces)],
  ];
}

/**
 * A trainee's finished series as an attempt of the method of reading traces, where the class uses it: signed by an instructor it counts in
 * the loss-test skill. Null where the method is not in use, or who read it is no trainee of the class.
 */
export const attemptOfReading = (
  trx: Database,
  series: SeriesRow,
  run: RunRow,
  result: SeriesReading,
  me: Person,
  now: Date,
): Promise<string | null> =>
  computedAttempt(trx, {
    method: METHOD,
    classId: series.classId,
    label: series.label,
    figures: figuresOf(result),
    startedAt: run.startedAt,
    deviceId: run.id,
    me,
    now,
  });
