import { type Person, ROUTES } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import 'express-session';
import { type Config, isLoopback } from '../config.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle } from '../http/handle.ts';
import { peopleService } from './people.service.ts';

declare module 'express-session' {
  interface SessionData {
    personId: string;
  }
}

export function peopleRoutes(router: Router, db: Database, config: Config): void {
  const people = peopleService(db);
  handle(router, ROUTES.start, async ({ me }) => ({
    demo: config.mode === 'demo',
    setupNeeded: await people.setupNeeded(),
    me,
    deviceKey: me ? await people.deviceKey(me.id) : null,
  }));
  handle(router, ROUTES.signIn, async ({ body, request }) =>
    enter(request, await people.signIn(body.login, body.password, request.ip ?? '')),
  );
  handle(router, ROUTES.demoSignIn, async ({ body, request }) => {
    if (config.mode !== 'demo' || !isLoopback(config.host)) throw new AppError('auth.demo_only');
    return enter(request, await people.demoPerson(body.role));
  });
  handle(router, ROUTES.signOut, async ({ request, response }) => {
    await leave(request, response);
    return { done: true } as const;
  });
  handle(router, ROUTES.setup, async ({ body, request }) => {
    const { code, ...lead } = body;
    return enter(request, await people.setUp(code, lead, request.ip ?? ''));
  });
  handle(router, ROUTES.people, () => people.all());
  handle(router, ROUTES.addPerson, ({ body }) => people.add(body));
}

/** A new session id at each sign-in: one planted before it is worth nothing. */
function enter(request: Request, person: Person): Promise<Person> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((failed?: unknown) => {
      if (failed) return reject(failed as Error);
      request.session.personId = person.id;
      request.session.save((unsaved?: unknown) => (unsaved ? reject(unsaved as Error) : resolve(person)));
    });
  });
}

function leave(request: Request, response: Response): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.destroy((failed?: unknown) => {
      response.clearCookie('clear-mark');
      if (failed) reject(failed as Error);
      else resolve();
    });
  });
}
