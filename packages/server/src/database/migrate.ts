import type { Knex } from 'knex';
import { MIGRATIONS } from '../migrations/index.ts';
import type { Database } from './database.ts';

/** Any fixed number: every Clear Mark process asks for the same lock. */
const LOCK = 0x0c1ea7;

/**
 * Brings the database to the newest schema. Runs from empty, again without effect, and from several processes
 * at once: the others wait for an advisory lock. (Knex's own lock makes them fail instead of wait.)
 */
export async function migrate(db: Database): Promise<readonly string[]> {
  return db.transaction(async (trx) => {
    await trx.raw('select pg_advisory_xact_lock(?)', [LOCK]);
    await trx.raw(
      'create table if not exists schema_migrations (name text primary key, run_at timestamptz not null default now())',
    );
    const done = new Set<string>(await trx('schema_migrations').pluck('name'));
    const run: string[] = [];
    for (const { name, up } of MIGRATIONS) {
      if (done.has(name)) continue;
      await up(trx as Knex);
      await trx('schema_migrations').insert({ name });
      run.push(name);
    }
    return run;
  });
}
