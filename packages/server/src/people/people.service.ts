import { randomBytes } from 'node:crypto';
import type { Person, Role } from '@clear-mark/contract';
import { hash, verify } from '@node-rs/argon2';
import { v7 } from 'uuid';
import type { Database } from '../database/database.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';
import { AppError } from '../http/app-error.ts';
import { peopleStore } from './people.store.ts';

export const LEAST_PASSWORD = 10;

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

    /** An unknown name takes as long as a wrong password, so that names cannot be tried out. */
    signIn: async (login: string, password: string): Promise<Person> => {
      const found = await store.credentials(login);
      const good = await verify(found?.passwordHash ?? (await decoyHash()), password);
      if (!found || found.passwordHash === null || !good) throw new AppError('auth.bad_credentials');
      return found.person;
    },

    add: async (person: NewPerson): Promise<Person> => {
      const { password, ...rest } = person;
      await insertPerson(store, rest, password);
      return rest;
    },

    /** Makes a new one-time code and gives it in clear, once. Null when somebody has an account already. */
    newSetupCode: async (): Promise<string | null> => {
      if (await store.anyone()) return null;
      const code = randomBytes(5)
        .toString('hex')
        .toUpperCase()
        .replace(/(.{5})/, '$1-');
      await store.setSetupCode(await hash(code));
      return code;
    },

    /** The first visitor with the code becomes the lead. */
    setUp: (code: string, lead: { name: string; login: string; password: string }): Promise<Person> =>
      db.transaction(async (trx) => {
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
      }),
  };
};

let decoy: Promise<string> | null = null;
const decoyHash = (): Promise<string> => (decoy ??= hash(randomBytes(16).toString('hex')));

async function insertPerson(
  store: ReturnType<typeof peopleStore>,
  person: Person,
  password: string | null,
): Promise<void> {
  if (password !== null && password.length < LEAST_PASSWORD) {
    throw new AppError('auth.weak_password', { least: LEAST_PASSWORD });
  }
  try {
    await store.insert(person, password === null ? null : await hash(password));
  } catch (error) {
    if (sqlStateOf(error) === UNIQUE_VIOLATION) {
      throw new AppError('person.login_taken', { login: person.login });
    }
    throw error;
  }
}
