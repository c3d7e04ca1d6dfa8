import { ARCHIVE_PATHS } from './archives.ts';
import { AUDIT_CSV_PATH } from './audit.ts';
import { CSV_PATHS, CSV_TABLES, type CsvTableName } from './csv-tables.ts';
import { PICTURE_PATHS } from './faces.ts';
import { MEASURED_PICTURE_PATH } from './measured.ts';
import { HELD_PATHS } from './held.ts';
import { DAY_CALENDAR_PATH } from './days.ts';
import { PLAN_CALENDAR_PATH } from './plan.ts';
import { STATEMENTS_PATH } from './receivers.ts';
import { REPORT_BATCH_PATH } from './report-batches.ts';
import type { Access } from './route.ts';
import { EVENT_PATHS } from './routes.ts';
import { TRACE_MEDIA, TRACE_PATHS } from './traces.ts';

/** What crosses the wire as it is, outside of the JSON routes: files and streams. */
export interface FilePath {
  readonly method: 'get' | 'put';
  readonly path: string;
  readonly access: Access;
  /** The line of the table of rights that it belongs to. */
  readonly right: string;
  readonly mediaType: string;
  readonly about: string;
}

const file = (path: string, right: string, access: Access, mediaType: string, about: string): FilePath => ({
  method: 'get',
  path,
  access,
  right,
  mediaType,
  about,
});

const csv = (name: CsvTableName): FilePath =>
  file(CSV_PATHS[name], 'results', 'instructor', 'text/csv', `A line: ${CSV_TABLES[name].line}`);

/** Every file and stream by its name: the server answers by this list, and programs are told of it. */
export const FILES = {
  attemptsCsv: csv('attempts'),
  outcomesCsv: csv('outcomes'),
  entriesCsv: csv('entries'),
  readingsCsv: csv('readings'),
  standingsCsv: csv('standings'),
  stockCsv: csv('stock'),
  reportBatchZip: file(
    REPORT_BATCH_PATH,
    'results',
    'instructor',
    'application/zip',
    'Reports that a job has set',
  ),
  statements: file(
    STATEMENTS_PATH,
    'results',
    'instructor',
    'application/json',
    'What was shown, as xAPI statements',
  ),
  planCalendar: file(
    PLAN_CALENDAR_PATH,
    'plan',
    'instructor',
    'text/calendar',
    'Sessions of retraining as iCalendar',
  ),
  dayCalendar: file(
    DAY_CALENDAR_PATH,
    'days',
    'instructor',
    'text/calendar',
    'The planned day of a class as iCalendar',
  ),
  auditCsv: file(AUDIT_CSV_PATH, 'accounts', 'lead', 'text/csv', 'The trail of what was done'),
  classArchive: file(
    ARCHIVE_PATHS.make,
    'archives',
    'lead',
    'application/zip',
    'A whole class with all that belongs to it',
  ),
  lookAtArchive: {
    ...file(
      ARCHIVE_PATHS.look,
      'archives',
      'lead',
      'application/zip',
      'Checks an archive and says what taking it in would do',
    ),
    method: 'put',
  },
  takeArchive: {
    ...file(ARCHIVE_PATHS.take, 'archives', 'lead', 'application/zip', 'Takes the class of an archive in'),
    method: 'put',
  },
  heldZip: file(HELD_PATHS.person, 'erasure', 'lead', 'application/zip', 'All that is held about a person'),
  ownHeldZip: file(
    HELD_PATHS.own,
    'own-account',
    'signed_in',
    'application/zip',
    'All that is held about oneself',
  ),
  facePicture: file(
    PICTURE_PATHS.face,
    'faces',
    'instructor',
    'image/png',
    'A picture of an end face, PNG or JPEG',
  ),
  measuredPicture: file(
    MEASURED_PICTURE_PATH,
    'faces',
    'instructor',
    'image/png',
    'A picture that a value of a sheet was measured in, PNG or JPEG',
  ),
  callPicture: file(
    PICTURE_PATHS.call,
    'own-record',
    'signed_in',
    'image/png',
    'A picture that is called blind, PNG or JPEG',
  ),
  keepPicture: {
    ...file(
      PICTURE_PATHS.blob,
      'faces',
      'instructor',
      'image/png',
      'Keeps a picture, PNG or JPEG, under its digest',
    ),
    method: 'put',
  },
  traceFile: file(TRACE_PATHS.trace, 'traces', 'instructor', TRACE_MEDIA, 'The file of a trace, as it came'),
  blindTrace: file(
    TRACE_PATHS.blind,
    'own-record',
    'signed_in',
    TRACE_MEDIA,
    'A trace that is read blind, without a table of events',
  ),
  keepTraceFile: {
    ...file(
      TRACE_PATHS.trace,
      'traces',
      'instructor',
      TRACE_MEDIA,
      'Keeps a trace file under an id of its own',
    ),
    method: 'put',
  },
  classEvents: file(
    EVENT_PATHS.class,
    'results',
    'instructor',
    'text/event-stream',
    'What changes in a class',
  ),
  attemptEvents: file(
    EVENT_PATHS.attempt,
    'score',
    'signed_in',
    'text/event-stream',
    'What changes on a sheet',
  ),
  instrumentEvents: file(
    EVENT_PATHS.instruments,
    'score',
    'signed_in',
    'text/event-stream',
    'Readings of the instruments of a class',
  ),
} as const satisfies Readonly<Record<string, FilePath>>;

export const FILE_PATHS: readonly (readonly [name: string, file: FilePath])[] = Object.entries(FILES);
