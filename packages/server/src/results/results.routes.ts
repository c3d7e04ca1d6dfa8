import { CSV_TABLE_NAMES, CsvQuery, FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { handle, handleFile } from '../http/handle.ts';
import { instructorsView } from './instructors/instructors.ts';
import { attemptListService } from './lists/attempt-list.ts';
import { sendTable } from './lists/csv.ts';
import { linkTests } from './links/link-tests.ts';
import { lossSeries } from './losses/loss-series.ts';
import { skillsInTime } from './rates/skills-in-time.ts';
import { splitOf } from './rates/split.ts';
import { resultsOf } from './results.service.ts';
import { spliceRows } from './splices/splices.ts';
import { skillEvidence } from './standings/evidence.ts';
import { signOff } from './standings/sign-offs.ts';
import { differences } from './why/differences.ts';
import { suggestionCounts } from './why/suggestions.ts';
import { failingTogetherOf } from './why/failing-together.ts';

export function resultRoutes(router: Router, db: Database, now: () => Date): void {
  const lists = attemptListService(db);
  handle(router, ROUTES.results, ({ params, query, me }) => resultsOf(db, params.id, query, me, now()));
  handle(router, ROUTES.split, ({ params, query, me }) => splitOf(db, params.id, query, me));
  handle(router, ROUTES.lossSeries, ({ params, query, me }) => lossSeries(db, params.id, query, me));
  handle(router, ROUTES.skillsInTime, ({ params, query, me }) => skillsInTime(db, params.id, query, me));
  handle(router, ROUTES.failingTogether, ({ params, query, me }) =>
    failingTogetherOf(db, params.id, query, me),
  );
  handle(router, ROUTES.differences, ({ params, query, me }) => differences(db, params.id, query, me));
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
  handle(router, ROUTES.linkTests, ({ params, me }) => linkTests(db, params.id, params.linkId, me));
  handle(router, ROUTES.suggestions, ({ params, me }) => suggestionCounts(db, params.id, me));
  handle(router, ROUTES.ownRecord, ({ me }) => lists.own(me));
  for (const table of CSV_TABLE_NAMES) {
    handleFile(router, FILES[`${table}Csv`], async ({ id, me, request, response }) => {
      const classId = id('id', 'not_found.class');
      const filter = CsvQuery.parse(request.query);
      await sendTable(table, { db, classId, filter, me, now: now() }, response);
    });
  }
}
