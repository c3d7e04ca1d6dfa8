import { type WorkerClient, workerClient } from '../../workers/worker-client.ts';
import type {
  CleaveNews,
  CleaveOrder,
  EndNews,
  EndOrder,
  EndStandInOrder,
  SeedOrder,
  SpliceNews,
  SpliceOrder,
  StandInPicture,
} from './measure-orders.ts';

/** The worker that measures ends from the side. */
export const cleaveClient = (): WorkerClient<CleaveOrder, CleaveNews> =>
  workerClient(() => new Worker(new URL('./cleave-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that draws what a simulated cleave scope shows. */
export const cleaveStandInClient = (): WorkerClient<SeedOrder, StandInPicture> =>
  workerClient(() => new Worker(new URL('./cleave-stand-in-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that measures prepared ends on their card. */
export const endClient = (): WorkerClient<EndOrder, EndNews> =>
  workerClient(() => new Worker(new URL('./end-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that draws a simulated photograph of an end on a card. */
export const endStandInClient = (): WorkerClient<EndStandInOrder, StandInPicture> =>
  workerClient(() => new Worker(new URL('./end-stand-in-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that measures joints after the arc. */
export const spliceClient = (): WorkerClient<SpliceOrder, SpliceNews> =>
  workerClient(() => new Worker(new URL('./splice-worker.ts', import.meta.url), { type: 'module' }));

/** The worker that draws what a simulated splicer shows. */
export const spliceStandInClient = (): WorkerClient<SeedOrder, StandInPicture> =>
  workerClient(() => new Worker(new URL('./splice-stand-in-worker.ts', import.meta.url), { type: 'module' }));
