import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { referencesService } from './references.service.ts';

export function referenceRoutes(router: Router, db: Database, now: () => Date): void {
  const references = referencesService(db);
  handle(router, ROUTES.addReference, ({ params, body, me }) => references.add(params.id, body, me, now()));
  handle(router, ROUTES.changeReference, ({ params, body, me }) =>
    references.change(params.id, params.referenceId, body, me, now()),
  );
}
