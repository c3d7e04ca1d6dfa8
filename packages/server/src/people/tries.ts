import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { accountKey, addressKey, triesStore } from './tries.store.ts';

/** Counts tries, so that guessing has to wait. */
export const triesOf = (db: Database) => {
  const fail = (address: string): Promise<void> => triesStore(db).failed('address', addressKey(address));
  return {
    /** Counts a try of an account as failed until it is forgotten, unless it or the address has to wait. Error: `auth.throttled`. */
    take: (account: string, address: string | null): Promise<void> =>
      oneAtATime(db, 'tries', account, async (trx) => {
        const tries = triesStore(trx);
        const keys = address === null ? [account] : [account, addressKey(address)];
        if (await tries.mustWait(keys)) throw new AppError('auth.throttled');
        await tries.failed('account', account);
      }),
    /** Counts a failure of an address. */
    fail,
    /** The try was no failure, and ends none of those before it. */
    takeBack: (account: string): Promise<void> => triesStore(db).takeBack(account),
    /** Nothing is kept of an account's failures. */
    forgetAccount: (login: string): Promise<void> => triesStore(db).forget(accountKey(login)),
    forget: (account: string): Promise<void> => triesStore(db).forget(account),

    /** Does something for an address that has not to wait, and counts when it fails by this error. Error: `auth.throttled`. */
    byAddress: async <T>(address: string, failsWith: string, work: () => Promise<T>): Promise<T> => {
      if (await triesStore(db).mustWait([addressKey(address)])) throw new AppError('auth.throttled');
      try {
        return await work();
      } catch (error) {
        if (error instanceof AppError && error.code === failsWith) await fail(address);
        throw error;
      }
    },
  };
};
