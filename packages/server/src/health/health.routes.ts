import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';

export function healthRoutes(router: Router, db: Database): void {
  handle(router, ROUTES.health, async () => {
    await db.raw('select 1');
    return { status: 'ok', database: 'ok' } as const;
  });
}
