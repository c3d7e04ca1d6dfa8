import { HELD_PATHS, Id, type Person, ROUTES } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle, requireAccess } from '../http/handle.ts';
import { eraseService } from './erase.service.ts';
import { sendHeld } from './held.service.ts';

/** What is held about a person: taken out as a file, and erased. */
export function heldRoutes(router: Router, db: Database, now: () => Date): void {
  const erasing = eraseService(db);
  handle(router, ROUTES.erasureOutlook, ({ params }) => erasing.outlook(params.id));
  handle(router, ROUTES.erasePerson, ({ params, body, me }) => erasing.erase(params.id, body.name, me));
  router.get(HELD_PATHS.own, async (_request: Request, response: Response) => {
    const me = response.locals['me'] as Person | null;
    requireAccess('signed_in', me);
    await sendHeld(db, me!.id, me!, now(), response);
  });
  router.get(HELD_PATHS.person, async (request: Request, response: Response) => {
    const me = response.locals['me'] as Person | null;
    requireAccess('lead', me);
    const id = Id.safeParse(request.params['id']);
    if (!id.success) throw new AppError('not_found.person');
    await sendHeld(db, id.data, me!, now(), response);
  });
}
