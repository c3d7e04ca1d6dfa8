import { inject } from 'vitest';
import pg from 'pg';
import { loadDemoInOwnProcess } from '../../../tools/load-demo-process.ts';

/** The instant at which the demo class of the template is looked at. */
export const DEMO_NOW = new Date('2026-03-18T14:30:00Z');

const NAME = 'template_of_demo_class';
const LOCK = 71_101;

/**
 * The name of a database that holds the demo class without its pictures, loaded by whoever asks first and copied from then on:
 * a copy takes a fraction of a second, loading it a quarter of a minute.
 */
export async function demoTemplate(): Promise<string> {
  const adminUrl = inject('adminUrl');
  const client = new pg.Client({ connectionString: adminUrl });
  await client.connect();
  try {
    // Test files run side by side: the others wait until it is there.
    await client.query('select pg_advisory_lock($1)', [LOCK]);
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [NAME]);
    if (rowCount === 0) {
      const unfinished = `${NAME}_unfinished`;
      await client.query(`drop database if exists "${unfinished}"`);
      await client.query(`create database "${unfinished}" template template_of_tests`);
      const url = adminUrl.replace(/[^/]*$/, unfinished);
      await loadDemoInOwnProcess(url, { seed: 7, story: true, now: DEMO_NOW, faces: false });
      await client.query(`alter database "${unfinished}" rename to "${NAME}"`);
    }
    return NAME;
  } finally {
    await client.end();
  }
}
