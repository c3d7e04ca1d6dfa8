import { createRequire } from 'node:module';
import { Worker } from 'node:worker_threads';
import { pathToFileURL } from 'node:url';
import type { RunJob } from './what-if.service.ts';

/**
 * Runs jobs each in a thread of its own, with a connection of its own: scoring ten thousand attempts again keeps a core busy
 * for seconds, which the requests of others must not notice.
 */
export const jobThreads =
  (databaseUrl: string): RunJob =>
  (order) =>
    new Promise((resolve, reject) => {
      // The sources are run as they are; the thread needs the same loader as the process.
      const loader = pathToFileURL(createRequire(import.meta.url).resolve('tsx')).href;
      const worker = new Worker(new URL('./job-worker.ts', import.meta.url), {
        workerData: { databaseUrl, order },
        execArgv: ['--import', loader],
      });
      worker.once('error', reject);
      worker.once('exit', (code) =>
        code === 0 ? resolve() : reject(new Error(`the job ended with ${code}`)),
      );
    });
