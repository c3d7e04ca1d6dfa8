import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { ping } from '../database/sql.ts';
import { handle } from '../http/handle.ts';

export function healthRoutes(router: Router, db: Database): void {
  handle(router, ROUTES.health, async () => {
    await ping(db);
    return { status: 'ok', database: 'ok' } as const;
  });
}
