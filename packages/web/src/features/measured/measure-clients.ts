import { type WorkerClient, workerClient } from '../../workers/worker-client.ts';
import type { CleaveNews, CleaveOrder, CleaveStandInOrder, CleaveStandInPicture } from './measure-orders.ts';

/** The worker that measures ends from the side. */
export const cleaveClient = (): WorkerClient<CleaveOrder, CleaveNews> =>
  workerClient(() => new Worker(new URL('./cleave-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that draws what a simulated cleave scope shows. */
export const cleaveStandInClient = (): WorkerClient<CleaveStandInOrder, CleaveStandInPicture> =>
  workerClient(() => new Worker(new URL('./cleave-stand-in-worker.ts', import.meta.url), { type: 'module' }));
