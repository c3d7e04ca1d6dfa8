import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { ping } from '../database/sql.ts';
import { AppError } from '../errors/app-error.ts';
import { handle } from '../http/handle.ts';

export function healthRoutes(router: Router, db: Database, stopping: () => boolean): void {
  handle(router, ROUTES.health, async () => {
    await ping(db);
    return { status: 'ok', database: 'ok' } as const;
  });
  // Alive is not ready: a process that is about to end still answers what it has begun.
  handle(router, ROUTES.ready, async () => {
    if (stopping()) throw new AppError('server.stopping');
    await ping(db);
    return { status: 'ready' } as const;
  });
}
