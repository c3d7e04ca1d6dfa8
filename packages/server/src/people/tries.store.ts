import type { Database } from '../database/database.ts';

/** Failures that cost nothing: a slip of the finger, a forgotten capital. */
const FREE = 5;
/** Addresses are shared by a whole room: they may fail more often before all of it waits. */
const FREE_OF_ADDRESS = 30;
const LONGEST_WAIT_S = 900;
/** After so long without a failure it is forgotten. */
const FORGOTTEN_AFTER = '1 hour';

export type TryKind = 'account' | 'address';

/** Failed tries, in the database: every server process counts the same ones, and memory grows for nobody. */
export const triesStore = (db: Database) => ({
  /** Whether one of the keys has to wait at present. */
  mustWait: async (keys: readonly string[]): Promise<boolean> =>
    (await db('sign_in_tries')
      .whereIn('key', keys as string[])
      .whereRaw('locked_until > now()')
      .first('key')) !== undefined,

  /** Counts a failure; from the free ones on each doubles the wait. */
  failed: async (kind: TryKind, key: string): Promise<void> => {
    const free = kind === 'account' ? FREE : FREE_OF_ADDRESS;
    await db.raw(
      `insert into sign_in_tries as t (key, failures, last_at) values (?, 1, now())
       on conflict (key) do update set
         failures = case when t.last_at < now() - interval '${FORGOTTEN_AFTER}' then 1 else t.failures + 1 end,
         last_at = now(),
         locked_until = case
           when t.last_at < now() - interval '${FORGOTTEN_AFTER}' or t.failures + 1 < ? then null
           else now() + least(power(2, least(t.failures + 1 - ?, 20)), ${LONGEST_WAIT_S}) * interval '1 s' end`,
      [key, free, free],
    );
    await db('sign_in_tries').whereRaw(`last_at < now() - interval '${FORGOTTEN_AFTER}' * 2`).del();
  },

  /** Takes one failure back, without shortening what has to be waited. */
  takeBack: async (key: string): Promise<void> => {
    await db('sign_in_tries').where({ key }).where('failures', '>', 0).decrement('failures', 1);
  },
  forget: async (key: string): Promise<void> => {
    await db('sign_in_tries').where({ key }).del();
  },
});

/** Short keys of fixed length would hide what is locked; these say it, and the login is bounded by its shape. */
export const accountKey = (login: string): string => `account ${login}`;
export const addressKey = (address: string): string => `address ${address.slice(0, 64)}`;
export const SETUP_KEY = 'account (setup)';
