import { createRequire } from 'node:module';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';

/**
 * Runs jobs each in a thread of its own, with a connection of its own: scoring ten thousand attempts again, or setting a class's
 * reports, keeps a core busy for seconds, which the requests of others must not notice. `worker` is the module that does it,
 * by `databaseUrl` and `order` of its data.
 */
export const jobThreads =
  <Order extends object>(databaseUrl: string, worker: URL) =>
  (order: Order): Promise<void> =>
    new Promise((resolve, reject) => {
      // The sources are run as they are: the thread registers the process's own loader before it opens them.
      const tsx = path.dirname(createRequire(import.meta.url).resolve('tsx/package.json'));
      const loader = pathToFileURL(path.join(tsx, 'dist/esm/api/index.mjs')).href;
      const job = worker.href;
      const boot = `import(${JSON.stringify(loader)}).then(({ register }) => {
        register();
        return import(${JSON.stringify(job)});
      });`;
      const thread = new Worker(boot, { eval: true, workerData: { databaseUrl, order } });
      thread.once('error', reject);
      thread.once('exit', (code) =>
        code === 0 ? resolve() : reject(new Error(`the job ended with ${code}`)),
      );
    });
