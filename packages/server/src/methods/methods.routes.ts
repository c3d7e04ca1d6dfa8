import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle } from '../http/handle.ts';
import { draftsService } from './drafts.service.ts';
import { ownNames } from './own-names.store.ts';
import { packsService } from './packs.service.ts';
import { methodVersion, setMethodState, versionsStore } from './methods.store.ts';

export function methodRoutes(router: Router, db: Database, now: () => Date): void {
  const drafts = draftsService(db);
  const packs = packsService(db);
  handle(router, ROUTES.methodVersion, async ({ params }) => {
    const found = await methodVersion(db, params.id);
    if (!found) throw new AppError('not_found.method_version');
    return found;
  });
  handle(router, ROUTES.setMethodState, ({ params, body, me }) =>
    db.transaction(async (trx) => {
      const found = await methodVersion(trx, params.id);
      if (!found) throw new AppError('not_found.method_version');
      const from = body.state === 'in_force' ? 'draft' : 'in_force';
      const changed = await setMethodState(trx, params.id, from, body.state);
      if (!changed) throw new AppError('method.state', { given: found.state, wanted: body.state });
      const kind = body.state === 'in_force' ? 'method_published' : 'method_retired';
      await record(trx, { kind, by: me.id, detail: `${changed.sheet.title}, version ${changed.version}` });
      return changed;
    }),
  );
  handle(router, ROUTES.ownNames, () => ownNames(db));
  handle(router, ROUTES.methodsOfSchool, () => versionsStore(db).published());
  handle(router, ROUTES.makePack, ({ body, me }) => packs.make(body, me));
  handle(router, ROUTES.previewPack, ({ body }) => packs.preview(body.pack));
  handle(router, ROUTES.importPack, ({ body, me }) => packs.take(body.pack, me, now()));
  handle(router, ROUTES.versionsBeside, async ({ params }) => {
    const version = await methodVersion(db, params.id);
    if (!version) throw new AppError('not_found.method_version');
    return versionsStore(db).ofMethod(version.methodId);
  });
  handle(router, ROUTES.methodDrafts, () => drafts.open());
  handle(router, ROUTES.addDraft, ({ body, me }) => drafts.add(body, me, now()));
  handle(router, ROUTES.methodDraft, ({ params }) => drafts.byId(params.id));
  handle(router, ROUTES.saveDraft, ({ params, body, me }) =>
    drafts.save(params.id, body.revision, body.sheet, me, now()),
  );
  handle(router, ROUTES.discardDraft, async ({ params }) => {
    await drafts.discard(params.id, now());
    return { done: true as const };
  });
  handle(router, ROUTES.publishDraft, ({ params, body, me }) => drafts.publish(params.id, body, me, now()));
}
