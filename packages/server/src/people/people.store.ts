import type { Account, Person, Role } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';

const COLUMNS = ['id', 'name', 'login', 'role'] as const;

export interface Credentials {
  readonly person: Person;
  readonly passwordHash: string | null;
}

export const peopleStore = (db: Database) => ({
  byId: async (id: string): Promise<Person | null> =>
    (await db('people').select(COLUMNS).where({ id }).whereNull('disabled_at').first<Person>()) ?? null,

  all: async (): Promise<Account[]> =>
    db('people')
      .select([...COLUMNS])
      .select(
        db.raw(
          `(select coalesce(json_agg(json_build_object('id', c.id, 'name', c.name) order by c.starts_on desc, c.name), '[]')
              from class_members m join classes c on c.id = m.class_id where m.person_id = people.id and m.left_at is null) as classes`,
        ),
      )
      .whereNull('disabled_at')
      .orderBy('name')
      .orderBy('id'),

  credentials: async (login: string): Promise<Credentials | null> => {
    const row = await db('people')
      .select([...COLUMNS, 'password_hash'])
      .where({ login })
      .whereNull('disabled_at')
      .first<(Person & { password_hash: string | null }) | undefined>();
    if (!row) return null;
    const { password_hash: passwordHash, ...person } = row;
    return { person, passwordHash };
  },

  /** Somebody of a role, from the class that began last. */
  firstOfRole: async (role: Role): Promise<Person | null> =>
    (await db('people')
      .select(COLUMNS)
      .where({ role })
      .orderByRaw(
        `(select max(c.starts_on) from class_members m join classes c on c.id = m.class_id
           where m.person_id = people.id) desc nulls last`,
      )
      .orderBy('created_at')
      .orderBy('id')
      .first<Person>()) ?? null,

  insert: async (person: Person, passwordHash: string | null): Promise<void> => {
    await db('people').insert({ ...person, password_hash: passwordHash });
  },

  deviceKey: async (id: string): Promise<string> =>
    (await db('people').where({ id }).pluck('device_key'))[0] as string,

  anyone: async (): Promise<boolean> => (await db('people').select('id').first()) !== undefined,

  setSetupCode: async (codeHash: string): Promise<void> => {
    await db('setup_code').insert({ only_one: true, code_hash: codeHash }).onConflict('only_one').merge();
  },

  /** The code's hash, its row locked until the transaction ends: two visitors cannot both be first. */
  lockSetupCode: async (): Promise<string | null> => {
    const row = await db('setup_code').select('code_hash').forUpdate().first<{ code_hash: string }>();
    return row?.code_hash ?? null;
  },

  clearSetupCode: async (): Promise<void> => {
    await db('setup_code').del();
  },
});
