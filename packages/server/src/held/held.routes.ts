import { FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle, handleFile } from '../http/handle.ts';
import type { PictureStorage } from '../pictures/index.ts';
import { eraseService } from './erase.service.ts';
import { sendHeld } from './held.service.ts';

/** What is held about a person: taken out as a file, and erased. */
export function heldRoutes(
  router: Router,
  db: Database,
  now: () => Date,
  storage: PictureStorage | null,
): void {
  const erasing = eraseService(db);
  handle(router, ROUTES.erasureOutlook, ({ params }) => erasing.outlook(params.id));
  handle(router, ROUTES.erasePerson, ({ params, body, me }) => erasing.erase(params.id, body.name, me));
  handleFile(router, FILES.ownHeldZip, ({ me, response }) =>
    sendHeld({ db, storage }, me.id, me, now(), response),
  );
  handleFile(router, FILES.heldZip, ({ id, me, response }) =>
    sendHeld({ db, storage }, id('id', 'not_found.person'), me, now(), response),
  );
}
