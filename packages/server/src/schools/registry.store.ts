import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

/** A school as the registry has it. */
export interface RegisteredSchool {
  readonly name: string;
  /** Names by which browsers call it. */
  readonly hosts: readonly string[];
  /** The database cluster by its name in the settings, and the database on it. */
  readonly cluster: string;
  readonly database: string;
  /** False while it is being moved: nobody is let in. */
  readonly open: boolean;
}

/** Makes the registry in its own database; again without effect. */
export async function prepareRegistry(db: Database, appRole: string | null): Promise<void> {
  await db.transaction(async (trx) => {
    await trx.raw('select pg_advisory_xact_lock(?)', [LOCK]);
    await trx.raw(`
      create table if not exists schools (
        name text primary key check (name ~ '^[a-z][a-z0-9-]{0,39}$'),
        cluster text not null,
        database text not null,
        open boolean not null default true,
        added_at timestamptz not null default now(),
        unique (cluster, database)
      );
      create table if not exists school_hosts (
        host text primary key check (host = lower(host) and length(host) between 1 and 253),
        school text not null references schools (name) on delete cascade
      );
    `);
    if (appRole !== null) await trx.raw('grant select on schools, school_hosts to ??', [appRole]);
  });
}
const LOCK = 0x0c1eaa;

export const registryStore = (db: Database) => ({
  all: (): Promise<RegisteredSchool[]> =>
    rowsOf(
      db,
      sql`select s.name, s.cluster, s.database, s.open,
                 coalesce(array_agg(h.host order by h.host) filter (where h.host is not null), '{}') as hosts
            from schools s left join school_hosts h on h.school = s.name group by s.name order by s.name`,
    ),
  /** Errors: the name, the database or one of the hosts is another school's (unique violation). */
  addSchool: async ({ name, hosts, cluster, database, open }: RegisteredSchool): Promise<void> => {
    await db.transaction(async (trx) => {
      await trx('schools').insert({ name, cluster, database, open });
      await trx('school_hosts').insert(hosts.map((host) => ({ host: host.toLowerCase(), school: name })));
    });
  },
  setOpen: async (name: string, open: boolean): Promise<void> => {
    await db('schools').where({ name }).update({ open });
  },
  setPlace: async (name: string, cluster: string, database: string): Promise<void> => {
    await db('schools').where({ name }).update({ cluster, database });
  },
  dropSchool: async (name: string): Promise<void> => {
    await db('schools').where({ name }).delete();
  },
});
