import { FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle, handleFile } from '../http/handle.ts';
import type { JobQueue } from '../jobs/index.ts';
import { batchesService } from './batches.service.ts';

export function reportBatchRoutes(router: Router, db: Database, now: () => Date, queue: JobQueue): void {
  const batches = batchesService(db, queue);
  handle(router, ROUTES.startReportBatch, ({ params, body, me }) =>
    batches.start(params.id, body, me, now()),
  );
  handle(router, ROUTES.newestReportBatch, ({ params, me }) => batches.newest(params.id, me));
  handle(router, ROUTES.reportBatch, ({ params, me }) => batches.byId(params.id, params.batchId, me));
  handle(router, ROUTES.cancelReportBatch, async ({ params, me }) => {
    await batches.cancel(params.id, params.batchId, me);
    return { done: true } as const;
  });
  handleFile(router, FILES.reportBatchZip, async ({ id, me, response }) => {
    const zip = await batches.zip(id('id', 'not_found.class'), id('batchId', 'not_found.job'), me);
    response.attachment('reports.zip').type('application/zip').send(zip);
  });
}
