import { expandedUncertaintyDb } from '@clear-mark/core';
import type { LinkTestOfClass, Person } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { linkTestsStore } from './link-tests.store.ts';

/** Tests of a link that are shown: the newest. */
const MOST_TESTS = 50;

/** What the signed tests of one link read, test by test, the newest first; void readings are left out. */
export async function linkTests(
  db: Database,
  classId: string,
  linkId: string,
  me: Person,
): Promise<LinkTestOfClass[]> {
  await classForInstructor(db, classId, me);
  const tests = new Map<string, LinkTestOfClass>();
  for (const row of await linkTestsStore(db).readings(classId, linkId, MOST_TESTS)) {
    const { attemptId, traineeName, pieceLabel, at, uncertainty, ...reading } = row;
    const there = tests.get(attemptId);
    if (there) there.readings.push(reading);
    else {
      const uncertaintyDb = expandedUncertaintyDb(uncertainty);
      tests.set(attemptId, { attemptId, traineeName, pieceLabel, at, uncertaintyDb, readings: [reading] });
    }
  }
  return [...tests.values()];
}
