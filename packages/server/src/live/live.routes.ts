import { EVENT_PATHS, Id, type Person } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import { attemptsStore, requireSight } from '../attempts/index.ts';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../http/app-error.ts';
import { requireAccess } from '../http/handle.ts';
import type { Bell } from './bell.ts';

/** Shorter than what proxies and browsers wait for; a client that hears nothing for longer asks by itself. */
const HEARTBEAT_MS = 10_000;

/**
 * Streams of server-sent events: each says only that something changed, and the client then catches up by sequence.
 * So a lost, doubled or late event does no harm, and there is one way for changes to arrive.
 */
export function liveRoutes(router: Router, db: Database, bell: Bell): void {
  router.get(EVENT_PATHS.class, async (request: Request, response: Response) => {
    const me = signedIn(response, 'instructor');
    const classId = idOf(request, 'not_found.class');
    await classForInstructor(db, classId, me);
    stream(request, response, (send) =>
      bell.listen(classId, ({ what }) => {
        if (what !== 'claim') send(what);
      }),
    );
  });
  router.get(EVENT_PATHS.attempt, async (request: Request, response: Response) => {
    const me = signedIn(response, 'signed_in');
    const attemptId = idOf(request, 'not_found.attempt');
    const attempt = await attemptsStore(db).byId(attemptId);
    if (!attempt) throw new AppError('not_found.attempt');
    await requireSight(db, attempt, me);
    stream(request, response, (send) =>
      bell.listen(attempt.classId, (ring) => {
        if (ring.what !== 'claim' && (!isAttempt(ring.what) || ring.what === attemptId)) send(attemptId);
      }),
    );
  });
}

const isAttempt = (what: string): boolean => Id.safeParse(what).success;

function signedIn(response: Response, access: 'instructor' | 'signed_in'): Person {
  const me = response.locals['me'] as Person | null;
  requireAccess(access, me);
  return me!;
}

function idOf(request: Request, missing: 'not_found.class' | 'not_found.attempt'): string {
  const id = Id.safeParse(request.params['id']);
  if (!id.success) throw new AppError(missing);
  return id.data;
}

function stream(
  request: Request,
  response: Response,
  hear: (send: (what: string) => void) => () => void,
): void {
  response.writeHead(200, {
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store, no-transform',
    Connection: 'keep-alive',
    // Asks proxies in front to pass each event on at once.
    'X-Accel-Buffering': 'no',
  });
  // What happened before the stream stood is caught up on this first event.
  response.write('retry: 1000\n\ndata: hello\n\n');
  const leave = hear((what) => response.write(`data: ${what}\n\n`));
  const beat = setInterval(() => response.write(': here\n\n'), HEARTBEAT_MS);
  request.on('close', () => {
    clearInterval(beat);
    leave();
  });
}
