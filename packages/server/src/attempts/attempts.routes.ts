import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { attemptsService } from './attempts.service.ts';
import { boardService } from './board.service.ts';
import { entriesService } from './entries.service.ts';
import { signService } from './sign.service.ts';

export function attemptRoutes(router: Router, db: Database, now: () => Date): void {
  const attempts = attemptsService(db);
  const entries = entriesService(db);
  const signing = signService(db);
  const boards = boardService(db);
  handle(router, ROUTES.board, ({ params, me }) => boards.board(params.id, me, now()));
  handle(router, ROUTES.startAttempt, async ({ params, body, me }) => {
    await attempts.start(params.id, body, me, now());
    return { attemptId: body.id };
  });
  handle(router, ROUTES.attempt, ({ params, me }) => attempts.document(params.id, me));
  handle(router, ROUTES.sendEntries, async ({ body, me }) => ({
    receipts: await entries.take(body.entries, body.sentAt, me, now()),
  }));
  handle(router, ROUTES.sign, ({ params, body, me }) => signing.sign(params.id, body, me, now()));
}
