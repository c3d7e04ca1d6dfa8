import { AttemptListFilter, CSV_PATHS, Id, type Person, ROUTES } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../http/app-error.ts';
import { handle, requireAccess } from '../http/handle.ts';
import { attemptListService } from './attempt-list.ts';
import { skillEvidence } from './evidence.ts';
import { failingTogetherOf } from './together.ts';
import { instructorsView } from './instructors.ts';
import { signOff } from './sign-offs.ts';
import { standsOut } from './stands-out.ts';
import { skillsInTime } from './skills-in-time.ts';
import { csvService } from './csv.ts';
import { lossSeries } from './loss-series.ts';
import { resultsService } from './results.service.ts';
import { spliceRows } from './splices.ts';
import { suggestionCounts } from './suggestions.ts';

export function resultRoutes(router: Router, db: Database, now: () => Date): void {
  const results = resultsService(db);
  const lists = attemptListService(db);
  const csv = csvService(db);
  handle(router, ROUTES.results, ({ params, query, me }) => results.results(params.id, query, me, now()));
  handle(router, ROUTES.split, ({ params, query, me }) => results.split(params.id, query, me));
  handle(router, ROUTES.lossSeries, ({ params, query, me }) => lossSeries(db, params.id, query, me));
  handle(router, ROUTES.skillsInTime, ({ params, query, me }) => skillsInTime(db, params.id, query, me));
  handle(router, ROUTES.failingTogether, ({ params, query, me }) =>
    failingTogetherOf(db, params.id, query, me),
  );
  handle(router, ROUTES.standsOut, ({ params, query, me }) => standsOut(db, params.id, query, me));
  handle(router, ROUTES.instructorsView, ({ params, query, me }) =>
    instructorsView(db, params.id, query, me),
  );
  handle(router, ROUTES.skillEvidence, ({ params, me }) => skillEvidence(db, params, me, now()));
  handle(router, ROUTES.signOff, ({ params, body, me }) => signOff(db, params.id, body, me, now()));
  handle(router, ROUTES.attemptList, ({ params, query, me }) => lists.list(params.id, query, me));
  handle(router, ROUTES.splices, async ({ params, me }) => {
    await classForInstructor(db, params.id, me);
    return spliceRows(db, params.id);
  });
  handle(router, ROUTES.suggestions, ({ params, me }) => suggestionCounts(db, params.id, me));
  handle(router, ROUTES.ownRecord, ({ me }) => lists.own(me));
  for (const kind of ['attempts', 'outcomes'] as const) {
    router.get(CSV_PATHS[kind], async (request: Request, response: Response) => {
      const me = response.locals['me'] as Person | null;
      requireAccess('instructor', me);
      const id = Id.safeParse(request.params['id']);
      if (!id.success) throw new AppError('not_found.class');
      await csv[kind](id.data, AttemptListFilter.parse(request.query), me!, response);
    });
  }
}
