import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { openDatabase } from '@clear-mark/server';
import { type DemoLoad, loadDemo } from './load-demo.ts';

const SELF = fileURLToPath(import.meta.url);

/**
 * Loads the demo in a process of its own: what it takes of memory goes with it, and a test runner's instrumented modules would
 * take three times as long. False when the database has classes already. Error: what the process said when it failed.
 */
export function loadDemoInOwnProcess(databaseUrl: string, load: DemoLoad): Promise<boolean> {
  const { onProgress, now, ...rest } = load;
  const order = JSON.stringify({ ...rest, now: now.getTime() });
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['--import', 'tsx', SELF, databaseUrl, order]);
    let said = '';
    let failure = '';
    child.stdout.on('data', (part: Buffer) => {
      said += part.toString();
      const shares = said.match(/^share [\d.]+$/gm);
      if (shares) onProgress?.(Number(shares[shares.length - 1]!.slice('share '.length)));
    });
    child.stderr.on('data', (part: Buffer) => (failure += part.toString()));
    child.on('error', reject);
    child.on('close', (code) => {
      if (code === 0) resolve(/^loaded true$/m.test(said));
      else reject(new Error(`The demo could not be loaded. ${failure.trim()}`));
    });
  });
}

if (process.argv[1] === SELF) {
  const [databaseUrl, order] = process.argv.slice(2);
  const load = JSON.parse(order!) as Omit<DemoLoad, 'now' | 'onProgress'> & { now: number };
  const db = openDatabase(databaseUrl!, 2);
  const onProgress = (share: number): void => console.log(`share ${share.toFixed(3)}`);
  const fresh = await loadDemo(db, { ...load, now: new Date(load.now), onProgress });
  await db.destroy();
  console.log(`loaded ${fresh}`);
}
