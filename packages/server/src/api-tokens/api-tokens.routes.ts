import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle } from '../http/handle.ts';
import { apiTokensService } from './api-tokens.service.ts';

export function apiTokenRoutes(router: Router, db: Database, now: () => Date): void {
  const tokens = apiTokensService(db, now);
  handle(router, ROUTES.apiTokens, ({ me }) => tokens.all(me));
  handle(router, ROUTES.addApiToken, ({ body, request, me }) => {
    // Who came in by four digits at a bench gives nothing out that holds for a year.
    if (request.session.benchId !== undefined) throw new AppError('auth.by_pin');
    return tokens.add(body, me);
  });
  handle(router, ROUTES.endApiToken, async ({ params, me }) => {
    await tokens.end(params.id, me);
    return { done: true } as const;
  });
}
