import { fileURLToPath } from 'node:url';
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { openDatabase } from '../src/index.ts';
import { type DemoLoad, loadDemo } from '../../../tools/load-demo.ts';

const SELF = fileURLToPath(import.meta.url);

/** Loads the demo in a process of its own: the test runner's instrumented modules take three times as long. */
export async function loadDemoInOwnProcess(databaseUrl: string, load: DemoLoad): Promise<void> {
  const order = JSON.stringify({ ...load, now: load.now.getTime() });
  await promisify(execFile)(process.execPath, ['--import', 'tsx', SELF, databaseUrl, order]);
}

if (process.argv[1] === SELF) {
  const [databaseUrl, order] = process.argv.slice(2);
  const load = JSON.parse(order!) as Omit<DemoLoad, 'now'> & { now: number };
  const db = openDatabase(databaseUrl!, 2);
  await loadDemo(db, { ...load, now: new Date(load.now) });
  await db.destroy();
}
