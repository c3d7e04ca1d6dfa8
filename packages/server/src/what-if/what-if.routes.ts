import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { jobThreads } from './job-thread.ts';
import { whatIfService } from './what-if.service.ts';

export function whatIfRoutes(router: Router, db: Database, now: () => Date, databaseUrl: string): void {
  const service = whatIfService(db, jobThreads(databaseUrl));
  handle(router, ROUTES.replay, ({ params, query, me }) => service.replay(params.id, query, me));
  handle(router, ROUTES.startWhatIf, ({ params, body, me }) => service.start(params.id, body, me, now()));
  handle(router, ROUTES.whatIf, ({ params, me }) => service.job(params.id, params.jobId, me));
  handle(router, ROUTES.cancelWhatIf, async ({ params, me }) => {
    await service.cancel(params.id, params.jobId, me);
    return { done: true } as const;
  });
}
