import type { Database } from '../database/database.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';
import { codeOf } from '../http/problem.ts';
import type { IntakeRow } from './entries.store.ts';
import { intakeStore, type Taken } from './intake.store.ts';

/** Most entries that one statement takes: beyond it others would wait long for their turn. */
const MOST_TOGETHER = 2000;
/**
 * Statements under way at once. A commit that rings holds the one lock of all rings until it is on the disk, so that a
 * second statement would only wait behind it and its entries miss the next turn: one was a quarter faster than two.
 */
const AT_ONCE = 1;
interface Waiting {
  readonly rows: readonly IntakeRow[];
  readonly resolve: (taken: readonly Taken[]) => void;
  readonly reject: (error: unknown) => void;
}

/**
 * Takes entries into the database, those of requests that arrive together in one statement and one commit: with eight
 * devices that is an eighth of the waits for the disk. Nothing is answered before it is on the disk. One entry that the
 * database refuses is found by halving, and refuses only itself.
 *
 * Rejected: a timer that gathers entries, since it delays a lone one.
 */
export function entriesIntake(db: Database, now: () => Date) {
  const waiting: Waiting[] = [];
  let underWay = 0;

  function take(rows: readonly IntakeRow[]): Promise<readonly Taken[]> {
    if (rows.length === 0) return Promise.resolve([]);
    return new Promise((resolve, reject) => {
      waiting.push({ rows, resolve, reject });
      pump();
    });
  }

  function pump(): void {
    while (underWay < AT_ONCE && waiting.length > 0) {
      const together = nextTogether();
      underWay += 1;
      void settle(together).finally(() => {
        underWay -= 1;
        pump();
      });
    }
  }

  function nextTogether(): Waiting[] {
    const together: Waiting[] = [];
    let count = 0;
    while (waiting.length > 0 && (count === 0 || count + waiting[0]!.rows.length <= MOST_TOGETHER)) {
      const next = waiting.shift()!;
      count += next.rows.length;
      together.push(next);
    }
    return together;
  }

  async function settle(together: readonly Waiting[]): Promise<void> {
    try {
      const taken = await takeOrHalve(together.flatMap((w) => w.rows));
      let from = 0;
      for (const { rows, resolve } of together) resolve(taken.slice(from, (from += rows.length)));
    } catch (error) {
      for (const { reject } of together) reject(error);
    }
  }

  /** All at once; when the database refuses, in halves, down to the one that it cannot keep. */
  async function takeOrHalve(rows: readonly IntakeRow[], again = true): Promise<readonly Taken[]> {
    try {
      return await takeNow(rows);
    } catch (error) {
      if (codeOf(error).code === 'server.unavailable' || codeOf(error).code === 'server.disk_full')
        throw error;
      // The same id came in by another way at the same moment: look again, and it is there.
      if (again && sqlStateOf(error) === UNIQUE_VIOLATION) return takeOrHalve(rows, false);
      if (rows.length === 1) {
        return [{ became: 'not_kept', seq: null, there: null, at: null, claimedAt: null, error }];
      }
      const half = Math.ceil(rows.length / 2);
      return [...(await takeOrHalve(rows.slice(0, half))), ...(await takeOrHalve(rows.slice(half)))];
    }
  }

  async function takeNow(rows: readonly IntakeRow[]): Promise<readonly Taken[]> {
    const found = await intakeStore(db).takeEntries(rows, now());
    // Answers belong to their entries by number: the database gives those of one attempt together.
    if (found.length !== rows.length || found.some((f, i) => f.i !== i)) {
      throw new Error(`${rows.length} entries given, ${found.length} answered`);
    }
    return found.map(({ became, seq, there, at, claimed_at: claimedAt }) => ({
      became,
      seq,
      there,
      at,
      claimedAt,
      error: null,
    }));
  }

  return { take };
}

export type EntriesIntake = ReturnType<typeof entriesIntake>;
