import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle } from '../http/handle.ts';
import { methodVersion, setMethodState } from './methods.store.ts';

export function methodRoutes(router: Router, db: Database): void {
  handle(router, ROUTES.methodVersion, async ({ params }) => {
    const found = await methodVersion(db, params.id);
    if (!found) throw new AppError('not_found.method_version');
    return found;
  });
  handle(router, ROUTES.setMethodState, ({ params, body }) =>
    db.transaction(async (trx) => {
      const found = await methodVersion(trx, params.id);
      if (!found) throw new AppError('not_found.method_version');
      const from = body.state === 'in_force' ? 'draft' : 'in_force';
      const changed = await setMethodState(trx, params.id, from, body.state);
      if (!changed) throw new AppError('method.state', { given: found.state, wanted: body.state });
      return changed;
    }),
  );
}
