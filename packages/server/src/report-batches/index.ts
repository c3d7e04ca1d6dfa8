export { reportBatchRoutes } from './batches.routes.ts';
export { batchHandlers, REPORT_BATCH } from './batches.service.ts';
/** What sets the reports, in a thread. */
export const BATCH_WORKER = new URL('./batch-worker.ts', import.meta.url);
