import type { AccountState, Role } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { own, rowsOf, sql } from '../database/sql.ts';

export interface AccountRow {
  readonly id: string;
  readonly name: string;
  readonly login: string;
  readonly role: Role;
  readonly signsIn: boolean;
  readonly disabled: boolean;
  readonly erased: boolean;
}

const ACCOUNT = own(`select id, name, login, role, password_hash is not null as "signsIn",
  disabled_at is not null as disabled, erased_at is not null as erased from people`);

export const accountsStore = (db: Database) => ({
  all: async (): Promise<AccountState[]> => {
    const rows = await rowsOf<AccountState & { codeUntil: Date | null; lastSignIn: Date | null }>(
      db,
      sql`select p.id, p.name, p.login, p.role, p.password_hash is not null as "signsIn",
                 p.disabled_at is not null as disabled, p.erased_at is not null as erased,
                 p.pin_hash is not null as pin, f.confirmed_at is not null as "secondFactor",
                 c.until as "codeUntil", p.last_sign_in as "lastSignIn",
                 (select coalesce(json_agg(json_build_object('id', k.id, 'name', k.name)
                                  order by k.starts_on desc, k.name), '[]')
                    from class_members m join classes k on k.id = m.class_id
                   where m.person_id = p.id and m.left_at is null) as classes
            from people p
            left join second_factors f on f.person_id = p.id
            left join account_codes c on c.person_id = p.id and c.until > now()
           order by p.disabled_at is not null, p.name, p.id`,
    );
    const iso = (at: Date | null): string | null => (at === null ? null : new Date(at).toISOString());
    return rows.map((r) => ({ ...r, codeUntil: iso(r.codeUntil), lastSignIn: iso(r.lastSignIn) }));
  },

  byId: async (id: string): Promise<AccountRow | null> => {
    const [row] = await rowsOf<AccountRow>(db, sql`${ACCOUNT} where id = ${id}`);
    return row ?? null;
  },
  /** Held until the end of the transaction. */
  lock: async (id: string): Promise<AccountRow | null> => {
    const [row] = await rowsOf<AccountRow>(db, sql`${ACCOUNT} where id = ${id} for update`);
    return row ?? null;
  },
  /** Leads who can sign in, beside one person. */
  otherLeads: async (id: string): Promise<number> => {
    const [row] = await rowsOf<{ n: string }>(
      db,
      sql`select count(*) as n from people
           where role = 'lead' and password_hash is not null and disabled_at is null and id <> ${id}`,
    );
    return Number(row!.n);
  },
  /** The roles that a person has in classes now. */
  rolesInClasses: async (id: string): Promise<string[]> =>
    db('class_members').distinct('role').where({ person_id: id }).whereNull('left_at').pluck('role'),

  hasPin: async (id: string): Promise<boolean> =>
    (await db('people').where({ id }).whereNotNull('pin_hash').first('id')) !== undefined,
  change: async (id: string, to: { readonly name: string; readonly role: Role }): Promise<void> => {
    // A lead comes in by the password alone.
    const pin = to.role === 'lead' ? { pin_hash: null } : {};
    await db('people')
      .where({ id })
      .update({ name: to.name, role: to.role, ...pin });
  },
  disable: async (id: string, disabled: boolean): Promise<void> => {
    await db('people')
      .where({ id })
      .update({ disabled_at: disabled ? db.fn.now() : null });
  },
  setPassword: async (id: string, passwordHash: string, login?: string): Promise<void> => {
    await db('people')
      .where({ id })
      .update({ password_hash: passwordHash, ...(login === undefined ? {} : { login }) });
  },
  passwordHash: async (id: string): Promise<string | null> =>
    ((await db('people').where({ id }).pluck('password_hash'))[0] as string | null | undefined) ?? null,

  giveCode: async (personId: string, codeDigest: string, until: Date): Promise<void> => {
    await db('account_codes')
      .insert({ person_id: personId, code_digest: codeDigest, until })
      .onConflict('person_id')
      .merge(['code_digest', 'until']);
  },
  dropCode: async (personId: string): Promise<boolean> =>
    (await db('account_codes').where({ person_id: personId }).delete()) > 0,
  /** Until when a person's code holds, ISO 8601; null where it is not theirs or ended. */
  codeHolds: async (personId: string, codeDigest: string, now: Date): Promise<string | null> => {
    const [row] = await rowsOf<{ until: string }>(
      db,
      sql`select until from account_codes
           where person_id = ${personId} and code_digest = ${codeDigest} and until > ${now}`,
    );
    return row?.until ?? null;
  },
  /** Whose code this is, where it holds; held until the end of the transaction. */
  ofCode: async (codeDigest: string, now: Date): Promise<AccountRow | null> => {
    const [row] = await rowsOf<AccountRow>(
      db,
      sql`select p.id, p.name, p.login, p.role, p.password_hash is not null as "signsIn", false as disabled, false as erased
            from account_codes c join people p on p.id = c.person_id
           where c.code_digest = ${codeDigest} and c.until > ${now} and p.disabled_at is null
             for update of c`,
    );
    return row ?? null;
  },

  signedIn: async (id: string): Promise<void> => {
    await db('people').where({ id }).update({ last_sign_in: db.fn.now() });
  },
  /** Ends the sessions of a person, but for one; how many ended. */
  endSessions: async (personId: string, but: string | null): Promise<number> => {
    const rows = await rowsOf(
      db,
      sql`delete from session where sess ->> 'personId' = ${personId} and sid is distinct from ${but}::text returning 1`,
    );
    return rows.length;
  },
  sessions: async (personId: string): Promise<number> => {
    const [row] = await rowsOf<{ n: string }>(
      db,
      sql`select count(*) as n from session where sess ->> 'personId' = ${personId} and expire > now()`,
    );
    return Number(row!.n);
  },
});
