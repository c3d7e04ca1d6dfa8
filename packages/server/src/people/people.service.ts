import type { Person, Role } from '@clear-mark/contract';
import { hash } from '@node-rs/argon2';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { createOnce } from '../database/create-once.ts';
import { requireGoodPassword } from './passwords.ts';
import { peopleStore } from './people.store.ts';
import { secondFactorStore } from './second-factor.store.ts';

interface NewPerson {
  readonly id: string;
  readonly name: string;
  readonly login: string;
  readonly role: Role;
  readonly password: string | null;
}

export interface Caller {
  readonly person: Person;
  readonly needsSecondFactor: boolean;
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

    /** A person with what stands before everything else: a second factor that is still to be set up. */
    caller: async (id: string): Promise<Caller | null> => {
      const person = await store.byId(id);
      if (!person) return null;
      const factors = secondFactorStore(db);
      const needsSecondFactor =
        person.role === 'lead' && (await factors.leadsNeedOne()) && !(await factors.holds(id));
      return { person, needsSecondFactor };
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
  };
};

/** Errors: those of a password that is not good enough. */
export async function insertPerson(
  store: ReturnType<typeof peopleStore>,
  person: Person,
  password: string | null,
): Promise<void> {
  if (password !== null) requireGoodPassword(password, person);
  await store.insert(person, password === null ? null : await hash(password));
}
