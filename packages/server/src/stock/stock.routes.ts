import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { stockService } from './stock.service.ts';

const done = { done: true } as const;

export function stockRoutes(router: Router, db: Database, now: () => Date): void {
  const stock = stockService(db);
  handle(router, ROUTES.stock, ({ params, me }) => stock.stock(params.id, me, now()));
  handle(router, ROUTES.setThing, async ({ params, body, me }) => {
    await stock.set(params.id, params.thingId, body, me);
    return done;
  });
  handle(router, ROUTES.addThingEvent, async ({ params, body, me }) => {
    await stock.addEvent(params.id, params.thingId, body, me, now());
    return done;
  });
}
