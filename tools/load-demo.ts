import { DEFAULT_POLICY } from '@clear-mark/core';
import { type DemoData, makeDemo, SCENARIO } from '@clear-mark/demo';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { type Database, storesForLoading } from '@clear-mark/server';

export interface DemoLoad {
  readonly seed: number;
  readonly story: boolean;
  readonly now: Date;
}

/**
 * Loads the demo class once, in one transaction, through the same services that an instructor's device calls:
 * entries with their sequence, signing with its score, its hash and its counting rows.
 */
export async function loadDemo(db: Database, load: DemoLoad): Promise<boolean> {
  return db.transaction(async (trx) => {
    await trx.raw('lock table classes in share row exclusive mode');
    if ((await trx('classes').select('id').first()) !== undefined) return false;
    const data = makeDemo({ ...load, sheet: LC_WEDGE_LOCATOR });
    await loadClass(trx, data);
    await loadAttempts(trx, data);
    return true;
  });
}

async function loadClass(trx: Database, data: DemoData): Promise<void> {
  const { classes, people } = storesForLoading(trx);
  for (const person of data.people) await people.insert({ ...person }, null);
  await classes.insert(
    {
      id: data.classId,
      name: SCENARIO.className,
      place: SCENARIO.place,
      timeZone: SCENARIO.timeZone,
      startsOn: data.startsOn,
      endsOn: data.endsOn,
    },
    DEFAULT_POLICY,
  );
  for (const person of data.people) {
    if (person.role !== 'lead') await classes.addMember(data.classId, person.id, person.role);
  }
  for (const thing of data.things) await classes.insertThing(data.classId, thing);
  await classes.useMethod(data.classId, await shippedVersion(trx), true);
}

const shippedVersion = async (trx: Database): Promise<string> =>
  (
    await trx('method_versions')
      .where({ method_id: LC_WEDGE_LOCATOR.id })
      .orderBy('version', 'desc')
      .pluck('id')
  )[0];

async function loadAttempts(trx: Database, data: DemoData): Promise<void> {
  const { attempts, entries, references, sign } = storesForLoading(trx);
  const methodVersionId = await shippedVersion(trx);
  const people = new Map(data.people.map((p) => [p.id, p]));
  for (const reference of data.references) {
    await references.insert(data.classId, reference.setBy, {
      ...reference,
      method: 'single_cord',
      showsNegative: false,
    });
  }
  // Signed in the order of signing: the chain of a class runs in time.
  const order = [...data.attempts].sort((a, b) => ((a.sign?.at ?? '9') < (b.sign?.at ?? '9') ? -1 : 1));
  for (const attempt of order) {
    await attempts.insert({
      ...attempt,
      classId: data.classId,
      methodVersionId,
      pieceKind: LC_WEDGE_LOCATOR.pieceKind,
      clockOffsetMs: 0,
      schools: {},
    });
    await entries.insert(
      attempt.entries.map((entry, index) => ({
        ...entry,
        attemptId: attempt.id,
        seq: index + 1,
        clockOffsetMs: 0,
        deliveredBy: null,
      })),
    );
    await entries.setNextSeq(attempt.id, attempt.entries.length + 1);
    if (!attempt.sign) continue;
    const { by, at, reason, asVoid } = attempt.sign;
    const request = { entryIds: attempt.entries.map((e) => e.id), reason, asVoid };
    await sign(attempt.id, request, { ...people.get(by)! }, new Date(at));
  }
}
