import { Id, type Person, PICTURE_PATHS, QueryWhole, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { sendPicture } from '../faces/index.ts';
import { AppError } from '../errors/app-error.ts';
import { handle, requireAccess } from '../http/handle.ts';
import { callsService } from './calls.service.ts';

const DONE = { done: true } as const;

export function callRoutes(router: Router, db: Database, now: () => Date): void {
  const calls = callsService(db);
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
  router.get(PICTURE_PATHS.call, async (request, response) => {
    const me = response.locals['me'] as Person | null;
    requireAccess('signed_in', me);
    const id = Id.safeParse(request.params['id']);
    const position = QueryWhole.safeParse(request.params['position']);
    if (!id.success || !position.success) throw new AppError('not_found.run');
    sendPicture(response, await calls.picture(id.data, position.data, me!));
  });
}
