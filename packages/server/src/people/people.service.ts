import { randomBytes } from 'node:crypto';
import type { Person, Role } from '@clear-mark/contract';
import { hash, verify } from '@node-rs/argon2';
import { v7 } from 'uuid';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { createOnce } from '../database/create-once.ts';
import { requireGoodPassword } from './passwords.ts';
import { peopleStore } from './people.store.ts';
import { accountKey, addressKey, SETUP_KEY, triesStore } from './tries.store.ts';

interface NewPerson {
  readonly id: string;
  readonly name: string;
  readonly login: string;
  readonly role: Role;
  readonly password: string | null;
}

export const peopleService = (db: Database) => {
  const store = peopleStore(db);
  return {
    byId: store.byId,
    all: store.all,
    setupNeeded: async (): Promise<boolean> => !(await store.anyone()),
    demoPerson: async (role: Role): Promise<Person> => {
      const person = await store.firstOfRole(role);
      if (!person) throw new AppError('not_found.person');
      return person;
    },

    /**
     * An unknown name takes as long as a wrong password, and waits like one, so that names cannot be tried out. Failures
     * are counted by account and by address; each beyond the free ones makes the next wait longer. A try counts for its
     * account before the password is looked at, so that many at once are no more than one after the other.
     */
    signIn: async (login: string, password: string, address: string): Promise<Person> => {
      await takeTry(db, accountKey(login), addressKey(address));
      const found = await store.credentials(login);
      const good = await verify(found?.passwordHash ?? (await decoyHash()), password);
      if (!found || found.passwordHash === null || !good) {
        // Counted whatever was read: the statement adds one.
        // eslint-disable-next-line server/check-then-write
        await countFailure(db, addressKey(address));
        throw new AppError('auth.bad_credentials');
      }
      await forgetTries(db, accountKey(login));
      return found.person;
    },

    /** What a person's unsent entries are locked with on a device. */
    deviceKey: store.deviceKey,

    add: async (person: NewPerson): Promise<Person> => {
      const { password, ...rest } = person;
      return createOnce(
        async () => {
          await insertPerson(store, rest, password);
          return rest;
        },
        async () => {
          const there = await store.byId(rest.id);
          // Another person's sign-in name is another refusal.
          if (!there) throw new AppError('person.login_taken', { login: rest.login });
          return there;
        },
        (there) => there.name === rest.name && there.login === rest.login && there.role === rest.role,
      );
    },

    /** Makes a new one-time code and gives it in clear, once. Null when somebody has an account already. */
    newSetupCode: async (): Promise<string | null> => {
      const code = randomBytes(5)
        .toString('hex')
        .toUpperCase()
        .replace(/(.{5})/, '$1-');
      const codeHash = await hash(code);
      return db.transaction(async (trx) => {
        if (await peopleStore(trx).anyone()) return null;
        await peopleStore(trx).setSetupCode(codeHash);
        return code;
      });
    },

    /** The first visitor with the code becomes the lead. */
    setUp: async (
      code: string,
      lead: { name: string; login: string; password: string },
      address: string,
    ): Promise<Person> => {
      await takeTry(db, SETUP_KEY, addressKey(address));
      try {
        const person = await db.transaction((trx) => setUpWithin(trx, code, lead));
        await forgetTries(db, SETUP_KEY);
        return person;
      } catch (error) {
        if (error instanceof AppError && error.code === 'auth.bad_setup_code') {
          await countFailure(db, addressKey(address));
        } else await forgetTries(db, SETUP_KEY);
        throw error;
      }
    },
  };
};

/** Counts a try of an account as failed until it is forgotten, unless it or the address has to wait. Error: `auth.throttled`. */
const takeTry = (db: Database, account: string, address: string): Promise<void> =>
  oneAtATime(db, 'tries', account, async (trx) => {
    const tries = triesStore(trx);
    if (await tries.mustWait([account, address])) throw new AppError('auth.throttled');
    await tries.failed('account', account);
  });
const countFailure = (db: Database, address: string): Promise<void> =>
  triesStore(db).failed('address', address);
const forgetTries = (db: Database, account: string): Promise<void> => triesStore(db).forget(account);

async function setUpWithin(
  trx: Database,
  code: string,
  lead: { name: string; login: string; password: string },
): Promise<Person> {
  const locked = peopleStore(trx);
  const codeHash = await locked.lockSetupCode();
  if (await locked.anyone()) throw new AppError('auth.setup_done');
  if (codeHash === null || !(await verify(codeHash, code.toUpperCase()))) {
    throw new AppError('auth.bad_setup_code');
  }
  const { password, ...rest } = lead;
  const person: Person = { id: v7(), role: 'lead', ...rest };
  await insertPerson(locked, person, password);
  await locked.clearSetupCode();
  return person;
}

let decoy: Promise<string> | null = null;
const decoyHash = (): Promise<string> => (decoy ??= hash(randomBytes(16).toString('hex')));

async function insertPerson(
  store: ReturnType<typeof peopleStore>,
  person: Person,
  password: string | null,
): Promise<void> {
  if (password !== null) requireGoodPassword(password, person);
  await store.insert(person, password === null ? null : await hash(password));
}
