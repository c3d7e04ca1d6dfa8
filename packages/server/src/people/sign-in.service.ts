import { randomBytes } from 'node:crypto';
import type { Person } from '@clear-mark/contract';
import { hash, verify } from '@node-rs/argon2';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { accountsStore } from './accounts.store.ts';
import { peopleStore } from './people.store.ts';
import { secondFactors } from './second-factor.ts';
import { secondFactorStore } from './second-factor.store.ts';
import { accountKey } from './tries.store.ts';
import { triesOf } from './tries.ts';

export const signInService = (db: Database) => {
  const store = peopleStore(db);
  const tries = triesOf(db);
  return {
    /**
     * An unknown name takes as long as a wrong password, and waits like one, so that names cannot be tried out. Failures
     * are counted by account and by address; each beyond the free ones makes the next wait longer. A try counts for its
     * account before the password is looked at, so that many at once are no more than one after the other.
     */
    signIn: async (
      { login, password, code }: { login: string; password: string; code?: string | undefined },
      address: string,
      now: Date,
    ): Promise<Person> => {
      await tries.take(accountKey(login), address);
      const found = await store.credentials(login);
      const good = await verify(found?.passwordHash ?? (await decoyHash()), password);
      if (!found || found.passwordHash === null || !good) {
        await tries.fail(address);
        // Who tried is not known, and what was typed may be a password in the wrong field.
        // eslint-disable-next-line server/check-then-write -- that somebody tried is true whatever becomes of the account
        await record(db, { kind: 'sign_in_failed', by: null, person: found?.person.id ?? null });
        throw new AppError('auth.bad_credentials');
      }
      const { person } = found;
      await takeSecondFactor(db, person, code, address, now);
      await tries.forget(accountKey(login));
      await accountsStore(db).signedIn(person.id);
      await record(db, { kind: 'sign_in', by: person.id });
      return person;
    },
  };
};

/** Errors: `auth.second_factor_needed`, `auth.bad_second_factor`; a wrong code counts like a wrong password. */
async function takeSecondFactor(
  db: Database,
  person: Person,
  code: string | undefined,
  address: string,
  now: Date,
): Promise<void> {
  const tries = triesOf(db);
  if (!(await secondFactorStore(db).holds(person.id))) return;
  if (code === undefined) {
    // Failures of codes stay counted: whoever has the password guesses codes no faster for asking.
    await tries.takeBack(accountKey(person.login));
    throw new AppError('auth.second_factor_needed');
  }
  try {
    await secondFactors(db).take(person.id, code, now);
  } catch (error) {
    if (error instanceof AppError) {
      await tries.fail(address);
      // eslint-disable-next-line server/check-then-write -- that somebody tried is true whatever becomes of the account
      await record(db, { kind: 'sign_in_failed', by: null, person: person.id, detail: 'second factor' });
    }
    throw error;
  }
}

let decoy: Promise<string> | null = null;
const decoyHash = (): Promise<string> => (decoy ??= hash(randomBytes(16).toString('hex')));
