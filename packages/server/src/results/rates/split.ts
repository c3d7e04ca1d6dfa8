import { differsFromRest, wilsonRate } from '@clear-mark/core';
import type { Person, ResultFilter, Split } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { ratesStore } from './rates.store.ts';

/** Rates by day, or by the things of a kind that were used, and which of them stand apart from the others. */
export async function splitOf(
  db: Database,
  classId: string,
  filter: ResultFilter & { by: string },
  me: Person,
): Promise<Split> {
  const { timeZone } = await classForInstructor(db, classId, me);
  const where = filterCondition({ classId, timeZone }, filter);
  const store = ratesStore(db);
  const rows =
    filter.by === 'day'
      ? await store.splitByDay(where, timeZone)
      : await store.splitByThing(where, filter.by);
  const signals = differsFromRest(rows.map(({ skill, k, n }) => ({ group: skill, k, n })));
  const byKey = new Map<string, Split['rows'][number]>();
  rows.forEach((row, i) => {
    const there = byKey.get(row.key) ?? { key: row.key, label: row.label, skills: [] };
    const { signal, p } = signals[i]!;
    there.skills.push({ skill: row.skill, rate: wilsonRate(row.k, row.n), void: row.void, signal, p });
    byKey.set(row.key, there);
  });
  return { by: filter.by, rows: [...byKey.values()] };
}
