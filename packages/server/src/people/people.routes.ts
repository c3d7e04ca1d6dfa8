import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import { record } from '../audit/index.ts';
import { type Config, isLoopback } from '../config.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle } from '../http/handle.ts';
import { peopleService } from './people.service.ts';
import { setupService } from './setup.service.ts';
import { signInService } from './sign-in.service.ts';
import { enter, leave } from './sessions.ts';

export function peopleRoutes(router: Router, db: Database, config: Config, now: () => Date): void {
  const people = peopleService(db);
  handle(router, ROUTES.start, async ({ me, request, response }) => ({
    demo: config.mode === 'demo',
    setupNeeded: await people.setupNeeded(),
    me,
    needsSecondFactor: response.locals['needsSecondFactor'] === true,
    byPin: me !== null && request.session.benchId !== undefined,
    deviceKey: me ? await people.deviceKey(me.id) : null,
  }));
  handle(router, ROUTES.signIn, async ({ body, request }) =>
    enter(request, await signInService(db).signIn(body, request.ip ?? '', now())),
  );
  handle(router, ROUTES.demoSignIn, async ({ body, request }) => {
    if (config.mode !== 'demo' || !isLoopback(config.host)) throw new AppError('auth.demo_only');
    return enter(request, await people.demoPerson(body.role));
  });
  handle(router, ROUTES.signOut, async ({ request, response, me }) => {
    await leave(request, response);
    await record(db, { kind: 'sign_out', by: me.id });
    return { done: true } as const;
  });
  handle(router, ROUTES.setup, async ({ body, request }) => {
    const { code, ...lead } = body;
    return enter(request, await setupService(db).setUp(code, lead, request.ip ?? ''));
  });
  handle(router, ROUTES.people, () => people.all());
}
