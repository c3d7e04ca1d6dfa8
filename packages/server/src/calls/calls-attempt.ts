import type { CallsResult, Rate } from '@clear-mark/core';
import type { Person } from '@clear-mark/contract';
import { computedAttempt } from '../attempts/index.ts';
import type { Database } from '../database/database.ts';
import type { RunRow, SeriesRow } from './calls.store.ts';

const METHOD = 'clear-mark/blind-calls';

interface Finished {
  readonly series: SeriesRow;
  readonly run: RunRow;
  readonly result: CallsResult;
  readonly me: Person;
  readonly now: Date;
}

/** A trainee's finished series as an attempt of the method of blind calls, so that it counts in the inspect skill; null as `computedAttempt` says. */
export const attemptOfCalls = (trx: Database, finished: Finished): Promise<string | null> => {
  const { series, run, result, me, now } = finished;
  return computedAttempt(trx, {
    method: METHOD,
    classId: series.classId,
    label: series.label,
    figures: [
      ['sensitivity', shareOf(result.sensitivity)],
      ['specificity', shareOf(result.specificity)],
      ['weighted', result.weighted],
    ],
    startedAt: run.startedAt,
    deviceId: run.id,
    me,
    now,
  });
};

const shareOf = (rate: Rate): number | null => (rate.kind === 'rate' ? rate.share : null);
