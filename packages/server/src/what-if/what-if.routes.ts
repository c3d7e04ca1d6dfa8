import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import type { JobQueue } from '../jobs/index.ts';
import { whatIfService } from './what-if.service.ts';

export function whatIfRoutes(router: Router, db: Database, now: () => Date, queue: JobQueue): void {
  const service = whatIfService(db, queue);
  handle(router, ROUTES.replay, ({ params, query, me }) => service.replay(params.id, query, me));
  handle(router, ROUTES.startWhatIf, ({ params, body, me }) => service.start(params.id, body, me, now()));
  handle(router, ROUTES.whatIf, ({ params, me }) => service.job(params.id, params.jobId, me));
  handle(router, ROUTES.cancelWhatIf, async ({ params, me }) => {
    await service.cancel(params.id, params.jobId, me);
    return { done: true } as const;
  });
}
