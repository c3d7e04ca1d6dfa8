import type { Database } from '@clear-mark/server';

/**
 * Copies the demo's signed attempts until there are so many, with new ids and start times moved back by whole weeks: their
 * counting rows, and where it is asked for their entries, readings and signed revisions too, so that they can be scored again.
 */
export async function copyAttempts(db: Database, attempts: number, withEntries: boolean): Promise<void> {
  const signed = Number((await db('attempts').where({ state: 'signed' }).count('* as n').first())!['n']);
  const copies = Math.max(0, Math.floor(attempts / signed) - 1);
  await db.raw(
    `create table copies as
       select a.id as old_id, gen_random_uuid() as new_id, n, a.started_at - n * interval '1 week' as started_at
         from attempts a, generate_series(1, ?) n where a.state = 'signed'`,
    [copies],
  );
  await db.raw('create index on copies (old_id)');
  await db.raw(
    `insert into attempts (id, class_id, trainee_id, method_version_id, piece_id, started_at, device_id, started_by,
                           schools, link, state)
       select c.new_id, a.class_id, a.trainee_id, a.method_version_id, a.piece_id, c.started_at, a.device_id,
              a.started_by, a.schools, a.link, ?
         from copies c join attempts a on a.id = c.old_id`,
    [withEntries ? 'open' : 'signed'],
  );
  if (withEntries) await copyEntries(db);
  for (const table of ['outcome_skills', 'outcome_criteria', 'outcome_losses']) {
    await withoutIndexes(db, table, () =>
      copyRows(db, table, { attempt_id: 'c.new_id', started_at: 'c.started_at' }),
    );
  }
  await db.raw('drop table copies');
  await db.raw('vacuum analyze');
}

/** Millions of rows go in several times faster when their indexes and keys are made afterwards. */
async function withoutIndexes(db: Database, table: string, act: () => Promise<void>): Promise<void> {
  const { rows: keys } = (await db.raw(
    `select conname as name, pg_get_constraintdef(oid) as definition from pg_constraint
      where conrelid = ?::regclass and contype in ('p', 'f') order by contype desc`,
    [table],
  )) as { rows: { name: string; definition: string }[] };
  for (const key of keys) await db.raw(`alter table ${table} drop constraint "${key.name}"`);
  const { rows: indexes } = (await db.raw(
    'select indexname as name, indexdef as definition from pg_indexes where tablename = ?',
    [table],
  )) as { rows: { name: string; definition: string }[] };
  for (const index of indexes) await db.raw(`drop index "${index.name}"`);
  await act();
  await db.raw("set maintenance_work_mem = '512MB'");
  for (const index of indexes) await db.raw(index.definition);
  for (const key of keys) await db.raw(`alter table ${table} add constraint "${key.name}" ${key.definition}`);
}

/** The rows of a table that hang on a copied attempt, some of their columns made anew. */
async function copyRows(db: Database, table: string, anew: Readonly<Record<string, string>>): Promise<void> {
  const columns: string[] = await db('information_schema.columns')
    .where({ table_name: table, table_schema: 'public' })
    .whereNotIn('column_name', Object.keys(anew))
    .pluck('column_name');
  const names = [...Object.keys(anew), ...columns.map((c) => `"${c}"`)].join(', ');
  const values = [...Object.values(anew), ...columns.map((c) => `t."${c}"`)].join(', ');
  await db.raw(
    `insert into ${table} (${names}) select ${values} from copies c join ${table} t on t.attempt_id = c.old_id`,
  );
}

/** An id that follows from a text, of a shape that is one (RFC 9562, version 8). */
const uuidOf = (text: string): string =>
  `overlay(overlay(md5(${text}) placing '8' from 13) placing 'a' from 17)::uuid`;

/** An entry's new id follows from the copy and the old id, so that what it supersedes can be named. */
async function copyEntries(db: Database): Promise<void> {
  const newId = (old: string): string => uuidOf(`c.new_id::text || ${old}::text`);
  await copyRows(db, 'entries', {
    id: newId('t.id'),
    attempt_id: 'c.new_id',
    supersedes: `array(select ${newId('s')} from unnest(t.supersedes) s)`,
    target_id: `case when t.target_id is null then null else ${newId('t.target_id')} end`,
  });
  await copyRows(db, 'readings', { entry_id: newId('t.entry_id'), attempt_id: 'c.new_id' });
  await copyRows(db, 'signed_revisions', {
    id: 'gen_random_uuid()',
    attempt_id: 'c.new_id',
    class_seq: 't.class_seq + c.n * 1000000',
  });
  await db.raw(`update attempts a set state = 'signed' from copies c where c.new_id = a.id`);
}
