import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { tablesService } from './tables.service.ts';

export function tableRoutes(router: Router, db: Database, now: () => Date): void {
  const tables = tablesService(db);
  handle(router, ROUTES.schoolTables, () => tables.all());
  handle(router, ROUTES.schoolTableVersions, ({ params }) => tables.versions(params.id));
  handle(router, ROUTES.saveSchoolTable, ({ params, body, me }) => tables.save(params.id, body, me, now()));
}
