import { FILES, Id } from '@clear-mark/contract';
import type { Router } from 'express';
import { attemptsStore, requireSight } from '../attempts/index.ts';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { eventStream } from './event-stream.ts';
import { handleFile } from '../http/handle.ts';
import type { ChangeNotifier } from './notifier.ts';
import type { ClassFeed } from './class-feed.ts';

/** What happened before the stream stood is caught up on this first event. */
const HELLO = 'data: hello\n\n';

/**
 * Streams of server-sent events: new entries of a class with their numbers, and of everything else that it changed. A
 * device with a gap catches up by sequence, so a lost, doubled or late event does no harm.
 */
export function liveRoutes(router: Router, db: Database, notifier: ChangeNotifier, feed: ClassFeed): void {
  handleFile(router, FILES.classEvents, async ({ id, me, request, response }) => {
    const classId = id('id', 'not_found.class');
    await classForInstructor(db, classId, me);
    eventStream(request, response, notifier, ({ write }) => {
      write(HELLO);
      return feed.follow(classId, write);
    });
  });
  handleFile(router, FILES.attemptEvents, async ({ id, me, request, response }) => {
    const attemptId = id('id', 'not_found.attempt');
    const attempt = await attemptsStore(db).byId(attemptId);
    if (!attempt) throw new AppError('not_found.attempt');
    await requireSight(db, attempt, me);
    eventStream(request, response, notifier, ({ write }) => {
      write(HELLO);
      return notifier.listen(attempt.classId, ({ what }) => {
        if (what !== 'claim' && (!isAttempt(what) || what === attemptId)) write(`data: ${attemptId}\n\n`);
      });
    });
  });
}

const isAttempt = (what: string): boolean => Id.safeParse(what).success;
