import type { Person } from '@clear-mark/contract';
import { type Database, migrate, openDatabase, resultsService, syncShippedMethods } from '@clear-mark/server';
import { loadDemo } from '../load-demo.ts';
import { type Measured, medianOf } from './measured.ts';

const ATTEMPTS = 100_000;
const ROUNDS = 9;

/** The yardstick: one bare GROUP BY over the stored criterion outcomes. */
const YARDSTICK = `select criterion_id, mark, count(*) from outcome_criteria where class_id = ? group by criterion_id, mark`;

/** The results view's data over 100,000 attempts in one class, as a service call, against the bare GROUP BY. */
export async function benchResults(url: string): Promise<Measured> {
  const db = openDatabase(url, 8);
  try {
    await migrate(db);
    await syncShippedMethods(db);
    await loadDemo(db, { seed: 7, story: true, now: new Date() });
    const classId: string = (await db('classes').pluck('id'))[0];
    const me = (await db('people').where({ role: 'lead' }).first()) as Person;
    await multiply(db);
    const service = resultsService(db);
    const call = async (): Promise<number> => timed(() => service.results(classId, {}, me, new Date()));
    const bare = async (): Promise<number> => timed(() => db.raw(YARDSTICK, [classId]));
    for (let i = 0; i < 2; i++) {
      await call();
      await bare();
    }
    const pairs: { call: number; bare: number }[] = [];
    for (let i = 0; i < ROUNDS; i++) pairs.push({ bare: await bare(), call: await call() });
    const rows = await db('outcome_criteria').count('* as n').first();
    return {
      name: 'results view of 100,000 attempts / bare GROUP BY',
      ratio: medianOf(pairs.map((p) => p.call / p.bare)),
      most: 1.5,
      unit: 'times',
      detail: `${rows!['n']} criterion outcomes; median call ${medianOf(pairs.map((p) => p.call)).toFixed(0)} ms, GROUP BY ${medianOf(pairs.map((p) => p.bare)).toFixed(0)} ms`,
    };
  } finally {
    await db.destroy();
  }
}

async function timed(act: () => PromiseLike<unknown>): Promise<number> {
  const from = process.hrtime.bigint();
  await act();
  return Number(process.hrtime.bigint() - from) / 1e6;
}

/**
 * Copies the demo's signed attempts until there are 100,000: only the counting rows and the attempts that they
 * hang on, with new ids and start times moved back by whole weeks.
 */
async function multiply(db: Database): Promise<void> {
  const signed = Number((await db('attempts').where({ state: 'signed' }).count('* as n').first())!['n']);
  const copies = Math.ceil(ATTEMPTS / signed);
  await db.raw(
    `create table copies as
       select a.id as old_id, gen_random_uuid() as new_id, n, a.started_at - n * interval '1 week' as started_at
         from attempts a, generate_series(1, ?) n where a.state = 'signed'`,
    [copies],
  );
  await db.raw('create index on copies (old_id)');
  await db.raw(
    `insert into attempts (id, class_id, trainee_id, method_version_id, piece_id, started_at, device_id, started_by, state)
       select c.new_id, a.class_id, a.trainee_id, a.method_version_id, a.piece_id, c.started_at, a.device_id,
              a.started_by, 'signed'
         from copies c join attempts a on a.id = c.old_id`,
  );
  for (const table of ['outcome_skills', 'outcome_criteria', 'outcome_losses']) {
    const columns: string[] = await db('information_schema.columns')
      .where({ table_name: table, table_schema: 'public' })
      .whereNotIn('column_name', ['attempt_id', 'started_at'])
      .pluck('column_name');
    const list = columns.map((c) => `"${c}"`).join(', ');
    await db.raw(
      `insert into ${table} (attempt_id, started_at, ${list})
         select c.new_id, c.started_at, ${columns.map((c) => `t."${c}"`).join(', ')}
           from copies c join ${table} t on t.attempt_id = c.old_id`,
    );
  }
  await db.raw('drop table copies');
  await db.raw('vacuum analyze');
}
