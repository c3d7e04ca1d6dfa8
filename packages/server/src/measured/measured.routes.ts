import { FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { sendPicture } from '../faces/index.ts';
import { handle, handleFile } from '../http/handle.ts';
import type { PictureStorage } from '../pictures/index.ts';
import { measuredService } from './measured.service.ts';

export function measuredRoutes(
  router: Router,
  db: Database,
  now: () => Date,
  storage: PictureStorage | null,
): void {
  const measured = measuredService(db, storage);
  handle(router, ROUTES.measuredPictures, ({ params, me }) => measured.list(params.id, params.attemptId, me));
  handle(router, ROUTES.addMeasuredPicture, ({ params, body, me }) =>
    measured.add(params.id, params.attemptId, body, me, now()),
  );
  handleFile(router, FILES.measuredPicture, async ({ id, me, response }) => {
    const picture = await measured.picture(
      id('id', 'not_found.class'),
      id('pictureId', 'not_found.face'),
      me,
    );
    sendPicture(response, picture);
  });
}
