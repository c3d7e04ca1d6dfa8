import { migrate, openDatabase, syncShippedMethods } from '@clear-mark/server';
import pg from 'pg';
import { loadDemoInOwnProcess } from './load-demo-process.ts';

/** The demo class, loaded once a run of the browser tests; every server's database is a copy of it. */
export const DEMO_TEMPLATE = 'template_of_demo';

/** Makes it in the cluster where it is missing. It has its name only when all is loaded. */
export async function makeDemoTemplate(clusterUrl: string): Promise<void> {
  const admin = new pg.Client({ connectionString: clusterUrl });
  await admin.connect();
  try {
    const found = await admin.query('select 1 from pg_database where datname = $1', [DEMO_TEMPLATE]);
    if (found.rows.length > 0) return;
    const unfinished = `unfinished_demo_${process.pid}`;
    await admin.query(`create database "${unfinished}"`);
    const url = clusterUrl.replace(/[^/]*$/, unfinished);
    const db = openDatabase(url, 2);
    await migrate(db);
    await syncShippedMethods(db);
    await db.destroy();
    await loadDemoInOwnProcess(url, { seed: 7, story: true, now: new Date() });
    await admin.query(`alter database "${unfinished}" rename to "${DEMO_TEMPLATE}"`);
  } finally {
    await admin.end();
  }
}
