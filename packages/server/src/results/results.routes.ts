import { CSV_TABLE_NAMES, CsvQuery, FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import type { Reader } from '../database/standby.ts';
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

export function resultRoutes(router: Router, db: Database, { read }: Reader, now: () => Date): void {
  const lists = attemptListService(db);
  handle(router, ROUTES.results, ({ params, query, me }) =>
    read((from) => resultsOf(from, params.id, query, me, now())),
  );
  handle(router, ROUTES.split, ({ params, query, me }) =>
    read((from) => splitOf(from, params.id, query, me)),
  );
  handle(router, ROUTES.lossSeries, ({ params, query, me }) =>
    read((from) => lossSeries(from, params.id, query, me)),
  );
  handle(router, ROUTES.skillsInTime, ({ params, query, me }) =>
    read((from) => skillsInTime(from, params.id, query, me)),
  );
  handle(router, ROUTES.failingTogether, ({ params, query, me }) =>
    read((from) => failingTogetherOf(from, params.id, query, me)),
  );
  handle(router, ROUTES.differences, ({ params, query, me }) =>
    read((from) => differences(from, params.id, query, me)),
  );
  handle(router, ROUTES.instructorsView, ({ params, query, me }) =>
    read((from) => instructorsView(from, params.id, query, me)),
  );
  handle(router, ROUTES.skillEvidence, ({ params, me }) =>
    read((from) => skillEvidence(from, params, me, now())),
  );
  handle(router, ROUTES.signOff, ({ params, body, me }) => signOff(db, params.id, body, me, now()));
  handle(router, ROUTES.attemptList, ({ params, query, me }) => lists.list(params.id, query, me));
  handle(router, ROUTES.splices, ({ params, me }) =>
    read(async (from) => {
      await classForInstructor(from, params.id, me);
      return spliceRows(from, params.id);
    }),
  );
  handle(router, ROUTES.linkTests, ({ params, me }) =>
    read((from) => linkTests(from, params.id, params.linkId, me)),
  );
  handle(router, ROUTES.suggestions, ({ params, me }) =>
    read((from) => suggestionCounts(from, params.id, me)),
  );
  handle(router, ROUTES.ownRecord, ({ me }) => lists.own(me));
  for (const table of CSV_TABLE_NAMES) {
    handleFile(router, FILES[`${table}Csv`], async ({ id, me, request, response }) => {
      const classId = id('id', 'not_found.class');
      const filter = CsvQuery.parse(request.query);
      await sendTable(table, { db, classId, filter, me, now: now() }, response);
    });
  }
}
