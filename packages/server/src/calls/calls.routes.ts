import { FILES, QueryWhole, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { sendPicture } from '../faces/index.ts';
import { AppError } from '../errors/app-error.ts';
import { handle, handleFile } from '../http/handle.ts';
import type { PictureStorage } from '../pictures/index.ts';
import { callsService } from './calls.service.ts';

const DONE = { done: true } as const;

export function callRoutes(
  router: Router,
  db: Database,
  now: () => Date,
  storage: PictureStorage | null,
): void {
  const calls = callsService(db, storage);
  handle(router, ROUTES.callSeries, ({ params, me }) => calls.list(params.id, me));
  handle(router, ROUTES.addSeries, async ({ params, body, me }) => {
    await calls.add(params.id, body, me);
    return DONE;
  });
  handle(router, ROUTES.ownSeries, ({ me }) => calls.own(me));
  handle(router, ROUTES.startRun, ({ params, body, me }) => calls.start(params.id, body.id, me, now()));
  handle(router, ROUTES.answerCall, async ({ params, body, me }) => {
    await calls.answer(params.id, body, me);
    return DONE;
  });
  handle(router, ROUTES.finishRun, ({ params, me }) => calls.finish(params.id, me, now()));
  handleFile(router, FILES.callPicture, async ({ id, me, request, response }) => {
    const runId = id('id', 'not_found.run');
    const position = QueryWhole.safeParse(request.params['position']);
    if (!position.success) throw new AppError('not_found.run');
    sendPicture(response, await calls.picture(runId, position.data, me));
  });
}
