import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { AppError } from '../http/app-error.ts';
import { handle } from '../http/handle.ts';
import { methodVersion } from './methods.store.ts';

export function methodRoutes(router: Router, db: Database): void {
  handle(router, ROUTES.methodVersion, async ({ params }) => {
    const found = await methodVersion(db, params.id);
    if (!found) throw new AppError('not_found.method_version');
    return found;
  });
}
