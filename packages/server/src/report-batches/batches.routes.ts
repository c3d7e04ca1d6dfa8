import { Id, type Person, REPORT_BATCH_PATH, ROUTES } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle, requireAccess } from '../http/handle.ts';
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
  router.get(REPORT_BATCH_PATH, async (request: Request, response: Response) => {
    const me = response.locals['me'] as Person | null;
    requireAccess('instructor', me);
    const classId = Id.safeParse(request.params['id']);
    const batchId = Id.safeParse(request.params['batchId']);
    if (!classId.success) throw new AppError('not_found.class');
    if (!batchId.success) throw new AppError('not_found.job');
    const zip = await batches.zip(classId.data, batchId.data, me!);
    response
      .set('Content-Disposition', 'attachment; filename="reports.zip"')
      .type('application/zip')
      .send(zip);
  });
}
