import cluster, { type Worker } from 'node:cluster';
import { fileURLToPath } from 'node:url';

export interface Processes {
  readonly url: string;
  readonly setupCode: string | null;
  /** Ids of the processes that run now. */
  readonly pids: () => readonly number[];
  readonly stop: () => Promise<void>;
}
type Told = Pick<Processes, 'url' | 'setupCode'>;

/** How long is waited before a process that ended by itself is started again. */
const AGAIN_MS = 1000;

/**
 * Several processes of one server on one port: the first prepares the database, then the others follow; one that ends by itself is
 * started again. `settings` are those of the server. Error: when the first does not come up.
 */
export async function startProcesses(
  count: number,
  settings: Readonly<Record<string, string | undefined>>,
  say: (line: string) => void,
): Promise<Processes> {
  cluster.setupPrimary({
    exec: fileURLToPath(new URL('./server-process.ts', import.meta.url)),
    execArgv: process.execArgv.length > 0 ? process.execArgv : ['--import', 'tsx'],
  });
  let stopping = false;
  const running = new Set<Worker>();
  const start = (first: boolean): Promise<Told> =>
    new Promise((resolve, reject) => {
      const worker = cluster.fork({ ...settings, CLEAR_MARK_FIRST: first ? 'yes' : 'no' });
      running.add(worker);
      worker.once('message', (told: Told) => resolve(told));
      worker.once('exit', (code) => {
        running.delete(worker);
        reject(new Error(`A server process ended with ${code}`));
        if (stopping || !up) return;
        say(`A server process ended with ${code}; starting it again`);
        setTimeout(() => {
          if (!stopping) start(false).catch(() => undefined);
        }, AGAIN_MS);
      });
    });
  let up = false;
  const told = await start(true);
  up = true;
  await Promise.all(Array.from({ length: count - 1 }, () => start(false)));
  return {
    ...told,
    pids: () => [...running].flatMap((w) => w.process.pid ?? []),
    stop: async () => {
      stopping = true;
      const ended = [...running].map((w) => new Promise<void>((done) => w.once('exit', () => done())));
      for (const worker of running) worker.kill('SIGTERM');
      await Promise.all(ended);
    },
  };
}
