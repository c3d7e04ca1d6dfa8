import type { Knex } from 'knex';
import * as people from './0001-people.ts';
import * as classes from './0002-classes.ts';
import * as attempts from './0003-attempts.ts';
import * as signing from './0004-signing.ts';
import * as charges from './0005-charges.ts';
import * as schools from './0006-schools-and-parts.ts';
import * as live from './0007-live.ts';
import * as measuring from './0008-measuring.ts';
import * as faces from './0009-faces.ts';
import * as insight from './0010-insight.ts';
import * as safekeeping from './0011-safekeeping.ts';
import * as intake from './0012-intake.ts';
import * as intakeCost from './0013-intake-cost.ts';
import * as jobQueue from './0014-job-queue.ts';
import * as stops from './0015-stops.ts';
import * as lossTests from './0016-loss-tests.ts';
import * as faceChances from './0017-face-chances.ts';
import * as methodDrafts from './0018-method-drafts.ts';
import * as schoolTables from './0019-school-tables.ts';
import * as zoneTables from './0020-zone-tables.ts';
import * as accounts from './0021-accounts.ts';
import * as amendments from './0022-amendments.ts';
import * as certificates from './0023-certificates.ts';
import * as erasure from './0024-erasure.ts';
import * as benchDevices from './0025-bench-devices.ts';
import * as reportBatches from './0026-report-batches.ts';
import * as apiTokens from './0027-api-tokens.ts';
import * as views from './0028-views.ts';
import * as receivers from './0029-receivers.ts';
import * as archives from './0030-archives.ts';
import * as storedPictures from './0031-stored-pictures.ts';
import * as traces from './0032-traces.ts';
import * as days from './0033-days.ts';
import * as courses from './0034-courses.ts';
import * as measuredPictures from './0035-measured-pictures.ts';
import * as measuredEnds from './0036-measured-ends.ts';
import * as measuredSplices from './0037-measured-splices.ts';

export interface Migration {
  readonly name: string;
  readonly up: (db: Knex) => Promise<void>;
}

/** In order; never edited once landed. */
export const MIGRATIONS: readonly Migration[] = [
  people,
  classes,
  attempts,
  signing,
  charges,
  schools,
  live,
  measuring,
  faces,
  insight,
  safekeeping,
  intake,
  intakeCost,
  jobQueue,
  stops,
  lossTests,
  faceChances,
  methodDrafts,
  schoolTables,
  zoneTables,
  accounts,
  amendments,
  certificates,
  erasure,
  benchDevices,
  reportBatches,
  apiTokens,
  views,
  receivers,
  archives,
  storedPictures,
  traces,
  days,
  courses,
  measuredPictures,
  measuredEnds,
  measuredSplices,
];
