import type { Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { classesStore } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { methodVersion } from '../methods/index.ts';
import { attemptsStore } from './attempts.store.ts';
import { entriesStore } from './entries.store.ts';

/** What was done elsewhere than on a sheet, with the figures that came of it. */
export interface ComputedAttempt {
  readonly method: string;
  readonly classId: string;
  readonly label: string;
  /** By the name of the criterion; null where there is nothing to count. */
  readonly figures: readonly (readonly [name: string, value: number | null])[];
  readonly startedAt: string;
  readonly deviceId: string;
  readonly me: Person;
  readonly now: Date;
}

/**
 * A trainee's finished series as an attempt of its method, where the class uses it: its figures are computed entries, an instructor signs it,
 * and so it counts by the one way of scoring. Null where the method is not in use, or who did it is no trainee of the class.
 */
export async function computedAttempt(trx: Database, done: ComputedAttempt): Promise<string | null> {
  const { method, classId, label, figures, startedAt, deviceId, me, now } = done;
  const classes = classesStore(trx);
  if ((await classes.memberRole(classId, me.id)) !== 'trainee') return null;
  const use = (await classes.methods(classId)).find((m) => m.methodId === method && m.inUse);
  const version = use ? await methodVersion(trx, use.versionId) : null;
  if (!version) return null;
  const id = v7();
  await attemptsStore(trx).insert({
    id,
    classId,
    traineeId: me.id,
    methodVersionId: version.id,
    pieceId: v7(),
    pieceLabel: label,
    pieceKind: version.sheet.pieceKind,
    thingIds: [],
    startedAt,
    clockOffsetMs: 0,
    deviceId,
    startedBy: me.id,
    schools: {},
  });
  const entries = entriesStore(trx);
  const known = figures.filter(([, value]) => value !== null);
  await entries.insert(
    known.map(([name, value], i) => ({
      id: v7(),
      attemptId: id,
      seq: i + 1,
      kind: 'value',
      criterionId: `${method}/${name}`,
      part: '',
      value: { kind: 'measure', text: value!.toFixed(3), unit: '1' },
      voidReason: null,
      note: null,
      authorId: me.id,
      capacity: 'trainee',
      deviceId,
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
