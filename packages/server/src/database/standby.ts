import type { Logger } from 'pino';
import { AppError } from '../errors/app-error.ts';
import type { Database } from './database.ts';
import { sqlStateOf } from './sql-state.ts';
import { rowsOf, sql } from './sql.ts';

/** Reads that change nothing and may be answered by a standby. */
export interface Reader {
  /** Does the work on a database that has everything that was committed when it was asked. */
  readonly read: <T>(work: (db: Database) => Promise<T>) => Promise<T>;
  /** How often each has answered so far. */
  readonly answered: () => { readonly standby: number; readonly leader: number };
}

/** How long a read waits for a standby to catch up, and how often it looks. */
const MOST_BEHIND_MS = 250;
const LOOK_MS = 15;
/** A standby that failed is left alone for so long. */
const REST_MS = 5000;

/**
 * Takes reads off the leader. A standby answers only after it has replayed what the leader had when the read came, so that whoever
 * signs a piece finds it counted; one that lags by more than a moment, is away, or gives the question up, is passed over, and
 * the leader answers.
 */
export function readerOf(
  leader: Database,
  standby: Database | null,
  log: Pick<Logger, 'warn'>,
  mostBehindMs = MOST_BEHIND_MS,
): Reader {
  const answered = { standby: 0, leader: 0 };
  const byLeader = <T>(work: (db: Database) => Promise<T>): Promise<T> => {
    answered.leader += 1;
    return work(leader);
  };
  let restsUntil = 0;
  const rest = (error: unknown): void => {
    restsUntil = performance.now() + REST_MS;
    log.warn({ err: error }, 'standby');
  };
  return {
    answered: () => ({ ...answered }),
    read: async (work) => {
      if (!standby || performance.now() < restsUntil) return byLeader(work);
      const [{ at }] = (await rowsOf<{ at: string }>(
        leader,
        sql`select pg_current_wal_flush_lsn()::text as at`,
      )) as [{ at: string }];
      try {
        if (!(await catchesUp(standby, at, mostBehindMs))) return await byLeader(work);
      } catch (error) {
        rest(error);
        return byLeader(work);
      }
      try {
        const found = await work(standby);
        answered.standby += 1;
        return found;
      } catch (error) {
        if (!isOfStandby(error)) throw error;
        rest(error);
        return byLeader(work);
      }
    },
  };
}

/** Whether it is a standby and has replayed up to a place in the log within the time that it is given. */
async function catchesUp(standby: Database, at: string, mostBehindMs: number): Promise<boolean> {
  const until = performance.now() + mostBehindMs;
  for (;;) {
    const [found] = await rowsOf<{ there: boolean | null }>(
      standby,
      sql`select case when pg_is_in_recovery() then pg_last_wal_replay_lsn() >= ${at}::pg_lsn end as there`,
    );
    // One that became the leader is asked as the leader only.
    if (found!.there === null) return false;
    if (found!.there) return true;
    if (performance.now() > until) return false;
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
}

/** Classes of SQLSTATE: connection lost, resources, shut down by whoever keeps it; and replay that had to go on (PostgreSQL documentation, Hot Standby). */
const OF_STANDBY = /^(08|53|57P|40001|25006)/;
/** What the pool and the driver say of a connection that is gone. */
const GONE = /timeout|terminated|ECONN|EPIPE|socket|Unable to acquire/i;

const isOfStandby = (error: unknown): boolean => {
  if (error instanceof AppError) return false;
  const state = sqlStateOf(error);
  return state === null ? GONE.test(String((error as Error | null)?.message)) : OF_STANDBY.test(state);
};
