import type { Person } from '@clear-mark/contract';
import type { Request, Response } from 'express';
import 'express-session';

declare module 'express-session' {
  interface SessionData {
    personId: string;
    /** The bench device at which the person came in by a PIN. */
    benchId?: string;
  }
}

/** Whoever came in by a PIN is out again so long after the last thing that was done. */
const IDLE_AT_BENCH_MS = 20 * 60_000;

/** A new session id at each sign-in: one planted before it is worth nothing. */
export function enter(request: Request, person: Person, benchId?: string): Promise<Person> {
  return new Promise((resolve, reject) => {
    request.session.regenerate((failed?: unknown) => {
      if (failed) return reject(failed as Error);
      request.session.personId = person.id;
      if (benchId !== undefined) {
        request.session.benchId = benchId;
        request.session.cookie.maxAge = IDLE_AT_BENCH_MS;
      }
      request.session.save((unsaved?: unknown) => (unsaved ? reject(unsaved as Error) : resolve(person)));
    });
  });
}

export function leave(request: Request, response: Response): Promise<void> {
  return new Promise((resolve, reject) => {
    request.session.destroy((failed?: unknown) => {
      response.clearCookie('clear-mark');
      if (failed) reject(failed as Error);
      else resolve();
    });
  });
}
