import { randomBytes } from 'node:crypto';
import type { Person } from '@clear-mark/contract';
import { hash, verify } from '@node-rs/argon2';
import { v7 } from 'uuid';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { insertPerson } from './people.service.ts';
import { peopleStore } from './people.store.ts';
import { SETUP_KEY } from './tries.store.ts';
import { triesOf } from './tries.ts';

/** The first visit: one code, one lead. */
export const setupService = (db: Database) => {
  const tries = triesOf(db);
  return {
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
      await tries.take(SETUP_KEY, address);
      try {
        const person = await db.transaction((trx) => setUpWithin(trx, code, lead));
        await tries.forget(SETUP_KEY);
        return person;
      } catch (error) {
        if (error instanceof AppError && error.code === 'auth.bad_setup_code') {
          await tries.fail(address);
        } else await tries.forget(SETUP_KEY);
        throw error;
      }
    },
  };
};

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
  await record(trx, {
    kind: 'account_made',
    by: person.id,
    person: person.id,
    detail: 'lead, at the first visit',
  });
  return person;
}
