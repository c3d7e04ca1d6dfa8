import type { Database } from './database.ts';
import { rowsOf, sql } from './sql.ts';

/** What is locked, so that the same id of two kinds is two locks. Never changed: an older process may hold one. */
const SPACES = {
  reference: 0,
  face: 0,
  plan: 10,
  class: 11,
  instrument: 12,
  heads: 13,
  tries: 14,
  draft: 15,
  method: 16,
  school_table: 17,
  accounts: 18,
  archives: 19,
  day: 20,
} as const;

/** Waits until nobody else works on this thing; let go at the end of the transaction. */
export async function lockThing(trx: Database, space: keyof typeof SPACES, id: string): Promise<void> {
  await rowsOf(trx, sql`select pg_advisory_xact_lock(hashtextextended(${id}, ${SPACES[space]}))`);
}

/** The same for several things, always in one order, so that two who want the same ones do not wait for each other. */
export async function lockThings(
  trx: Database,
  space: keyof typeof SPACES,
  ids: readonly string[],
): Promise<void> {
  const inOrder = [...new Set(ids)].sort();
  await rowsOf(
    trx,
    sql`select pg_advisory_xact_lock(hashtextextended(id, ${SPACES[space]}))
          from unnest(${inOrder}::text[]) with ordinality as wanted(id, n) order by n`,
  );
}

/** What is looked at and then changed, in one transaction: of two that work on one thing the second waits for the first. */
export const oneAtATime = <T>(
  db: Database,
  space: keyof typeof SPACES,
  id: string,
  work: (trx: Database) => Promise<T>,
): Promise<T> =>
  db.transaction(async (trx) => {
    await lockThing(trx, space, id);
    return work(trx);
  });

/** Whether this transaction got a lock that one process of all holds; it never waits. */
export async function tryLock(trx: Database, number: number): Promise<boolean> {
  const [row] = await rowsOf<{ mine: boolean }>(
    trx,
    sql`select pg_try_advisory_xact_lock(${number}) as mine`,
  );
  return row!.mine;
}
