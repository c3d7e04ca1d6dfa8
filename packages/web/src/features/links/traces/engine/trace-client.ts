import { type WorkerClient, workerClient } from '../../../../workers/worker-client.ts';
import type { TraceNews, TraceOrder } from './trace-orders.ts';

/** The worker that opens trace files and finds what is on them. */
export const traceClient = (): WorkerClient<TraceOrder, TraceNews> =>
  workerClient(() => new Worker(new URL('./trace-worker.ts', import.meta.url), { type: 'module' }));
