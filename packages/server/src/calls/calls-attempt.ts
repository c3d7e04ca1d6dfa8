import type { CallsResult, Rate } from '@clear-mark/core';
import type { Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { attemptsStore, entriesStore } from '../attempts/index.ts';
import { classesStore } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { methodVersion } from '../methods/index.ts';
import type { RunRow, SeriesRow } from './calls.store.ts';

const METHOD = 'clear-mark/blind-calls';

interface Finished {
  readonly series: SeriesRow;
  readonly run: RunRow;
  readonly result: CallsResult;
  readonly me: Person;
  readonly now: Date;
}

/**
 * A trainee's finished series as an attempt of the method of blind calls, where the class uses it: its figures are computed
 * entries, an instructor signs it, and so it counts in the inspect skill by the one way of scoring. Null where the
 * method is not in use, or who called is no trainee of the class.
 */
export async function attemptOfCalls(trx: Database, finished: Finished): Promise<string | null> {
  const { series, run, result, me, now } = finished;
  const classes = classesStore(trx);
  if ((await classes.memberRole(series.classId, me.id)) !== 'trainee') return null;
  const use = (await classes.methods(series.classId)).find((m) => m.methodId === METHOD && m.inUse);
  const version = use ? await methodVersion(trx, use.versionId) : null;
  if (!version) return null;
  const id = v7();
  const attempts = attemptsStore(trx);
  await attempts.insert({
    id,
    classId: series.classId,
    traineeId: me.id,
    methodVersionId: version.id,
    pieceId: v7(),
    pieceLabel: series.label,
    pieceKind: version.sheet.pieceKind,
    thingIds: [],
    startedAt: run.startedAt,
    clockOffsetMs: 0,
    deviceId: run.id,
    startedBy: me.id,
    schools: {},
  });
  const figures: [string, number | null][] = [
    ['sensitivity', shareOf(result.sensitivity)],
    ['specificity', shareOf(result.specificity)],
    ['weighted', result.weighted],
  ];
  const entries = entriesStore(trx);
  const known = figures.filter(([, value]) => value !== null);
  await entries.insert(
    known.map(([name, value], i) => ({
      id: v7(),
      attemptId: id,
      seq: i + 1,
      kind: 'value',
      criterionId: `${METHOD}/${name}`,
      part: '',
      value: { kind: 'measure', text: value!.toFixed(3), unit: '1' },
      voidReason: null,
      note: null,
      authorId: me.id,
      capacity: 'trainee',
      deviceId: run.id,
      source: 'computed',
      at: now.toISOString(),
      supersedes: [],
      targetId: null,
      clockOffsetMs: 0,
      deliveredBy: null,
    })),
  );
  await entries.setNextSeq(id, known.length + 1);
  return id;
}

const shareOf = (rate: Rate): number | null => (rate.kind === 'rate' ? rate.share : null);
