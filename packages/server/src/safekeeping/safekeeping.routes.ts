import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { type Keeping, safekeepingService } from './safekeeping.service.ts';

export function safekeepingRoutes(router: Router, db: Database, now: () => Date, keeping: Keeping): void {
  const service = safekeepingService(db, keeping);
  handle(router, ROUTES.safekeeping, () => service.view());
  handle(router, ROUTES.checkRecords, async ({ me }) => {
    await service.check(me, now);
    return service.view();
  });
}
