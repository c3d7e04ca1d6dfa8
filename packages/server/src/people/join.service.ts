import type { Invitation, Person } from '@clear-mark/contract';
import { hash } from '@node-rs/argon2';
import { record } from '../audit/index.ts';
import { sha256 } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';
import { AppError } from '../errors/app-error.ts';
import { accountsStore } from './accounts.store.ts';
import { requireGoodPassword } from './passwords.ts';
import { secondFactorStore } from './second-factor.store.ts';
import { triesOf } from './tries.ts';

/** Somebody with a code, who is not signed in. */
export const joinService = (db: Database, now: () => Date) => {
  const tries = triesOf(db);
  return {
    /** What a code is for. A wrong one, one that ended and one that was used are not told apart. */
    look: (code: string, address: string): Promise<Invitation> =>
      tries.byAddress(address, 'account.bad_code', () =>
        db.transaction(async (trx) => {
          const account = await accountsStore(trx).ofCode(sha256(code), now());
          if (!account) throw new AppError('account.bad_code');
          return {
            name: account.name,
            login: account.signsIn ? account.login : null,
            secondFactor: await secondFactorStore(trx).holds(account.id),
          };
        }),
      ),

    /** The person of the code sets a password; everything that was signed in by an earlier one ends. */
    join: (
      { code, login, password }: { code: string; login: string | null; password: string },
      address: string,
    ): Promise<{ person: Person; secondFactor: boolean }> =>
      tries.byAddress(address, 'account.bad_code', () =>
        db.transaction(async (trx) => {
          const store = accountsStore(trx);
          const account = await store.ofCode(sha256(code), now());
          if (!account) throw new AppError('account.bad_code');
          if (!account.signsIn && login === null) throw new AppError('account.login_needed');
          const person: Person = {
            id: account.id,
            name: account.name,
            role: account.role,
            login: account.signsIn ? account.login : login!,
          };
          requireGoodPassword(password, person);
          try {
            await store.setPassword(account.id, await hash(password), person.login);
          } catch (error) {
            if (sqlStateOf(error) !== UNIQUE_VIOLATION) throw error;
            throw new AppError('person.login_taken', { login: person.login });
          }
          await store.dropCode(account.id);
          await store.endSessions(account.id, null);
          const detail = account.signsIn ? 'a new password' : 'joined';
          await record(trx, { kind: 'account_joined', by: account.id, person: account.id, detail });
          return { person, secondFactor: await secondFactorStore(trx).holds(account.id) };
        }),
      ),
  };
};
