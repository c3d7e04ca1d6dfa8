import {
  FILES,
  Id,
  MOST_PICTURE_BYTES,
  type Person,
  PICTURE_PATHS,
  ROUTES,
  Sha256,
} from '@clear-mark/contract';
import express, { type RequestHandler, type Response, type Router } from 'express';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle, handleFile, requireAccess } from '../http/handle.ts';
import type { PictureStorage } from '../pictures/index.ts';
import { facesService } from './faces.service.ts';
import type { StoredPicture } from './faces.store.ts';

export function faceRoutes(
  router: Router,
  db: Database,
  now: () => Date,
  storage: PictureStorage | null,
): void {
  const faces = facesService(db, storage);
  handle(router, ROUTES.faces, ({ params, query, me }) => faces.list(params.id, query.attemptId ?? null, me));
  handle(router, ROUTES.face, ({ params, me }) => faces.document(params.id, params.faceId, me));
  handle(router, ROUTES.addFace, ({ params, body, me }) => faces.add(params.id, body, me, now()));
  handle(router, ROUTES.gradeFace, ({ params, body, me }) =>
    faces.grade(params.id, params.faceId, body, me, now()),
  );
  handle(router, ROUTES.faceTables, ({ params, me }) => faces.tables(params.id, me));
  handle(router, ROUTES.saveFaceTable, ({ params, body, me }) => faces.saveTable(params.id, body, me));

  const raw = express.raw({ type: ['image/png', 'image/jpeg'], limit: MOST_PICTURE_BYTES });
  // Who sends and how much is asked before any of it is read.
  const allowed: RequestHandler = async (request, response, next) => {
    const me = signedIn(response);
    const size = Number(request.get('content-length') ?? Number.NaN);
    await faces.mayPut(idOf(request.params['id']), Number.isInteger(size) ? size : null, me);
    next();
  };
  router.put(PICTURE_PATHS.blob, allowed, raw, async (request, response) => {
    const me = signedIn(response);
    const sha256 = Sha256.safeParse(request.params['sha256']);
    if (!Buffer.isBuffer(request.body) || !sha256.success) throw new AppError('face.not_a_picture');
    await faces.putPicture(idOf(request.params['id']), sha256.data, request.body, me);
    response.json({ done: true });
  });
  handleFile(router, FILES.facePicture, async ({ id, me, response }) => {
    const picture = await faces.picture(id('id', 'not_found.face'), id('faceId', 'not_found.face'), me);
    sendPicture(response, picture);
  });
}

/** A kept picture never changes: the browser may keep it for itself. */
export function sendPicture(response: Response, { mediaType, bytes }: StoredPicture): void {
  response
    .set('Cache-Control', 'private, max-age=86400, immutable')
    .set('X-Content-Type-Options', 'nosniff')
    .type(mediaType)
    .send(bytes);
}

function signedIn(response: Response): Person {
  const me = response.locals['me'] as Person | null;
  requireAccess('instructor', me);
  return me!;
}

function idOf(text: unknown): string {
  const id = Id.safeParse(text);
  if (!id.success) throw new AppError('not_found.face');
  return id.data;
}
