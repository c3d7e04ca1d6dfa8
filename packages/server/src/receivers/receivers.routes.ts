import { FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import { record } from '../audit/index.ts';
import { classForInstructor } from '../classes/index.ts';
import type { Config } from '../config.ts';
import type { Database } from '../database/database.ts';
import { handle, handleFile } from '../http/handle.ts';
import { receiversService } from './receivers.service.ts';
import { receiversStore } from './receivers.store.ts';
import { statementsOf } from './statements.ts';

const DONE = { done: true } as const;

export function receiverRoutes(router: Router, db: Database, config: Config): void {
  const receivers = receiversService(db, config.mode);
  handle(router, ROUTES.receivers, () => receivers.all());
  handle(router, ROUTES.addReceiver, ({ body, me }) => receivers.add(body, me));
  handle(router, ROUTES.pauseReceiver, async ({ params, body }) => {
    await receivers.pause(params.id, body.paused);
    return DONE;
  });
  handle(router, ROUTES.dropReceiver, async ({ params, me }) => {
    await receivers.drop(params.id, me);
    return DONE;
  });
  handle(router, ROUTES.deliveries, ({ params }) => receivers.deliveries(params.id));
  handle(router, ROUTES.tryReceiver, async ({ params }) => {
    await receivers.tryOne(params.id);
    return DONE;
  });
  handle(router, ROUTES.sendAgain, async ({ params }) => {
    await receivers.again(params.id, params.deliveryId);
    return DONE;
  });
  handleFile(router, FILES.statements, async ({ id, me, request, response }) => {
    const classId = id('id', 'not_found.class');
    await classForInstructor(db, classId, me);
    await record(db, { kind: 'export', by: me.id, classId, detail: 'statements' });
    const home = `${request.protocol}://${request.get('host') ?? 'localhost'}`;
    const found = await receiversStore(db).recordsOf(classId);
    response.attachment('statements.json').json(found.flatMap((r) => statementsOf(r, home)));
  });
}
