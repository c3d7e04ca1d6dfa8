import type { ClassDetail, Person } from '@clear-mark/contract';
import {
  LAST_PIECES,
  type Paper,
  type Report,
  reportDocument,
  reportOfClass,
  reportOfTrainee,
} from '@clear-mark/paper';
import { dayWords } from '@clear-mark/words';
import yazl from 'yazl';
import { certificatesStore } from '../certificates/index.ts';
import { classesService } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { facesStore } from '../faces/index.ts';
import { bytesOf } from '../pdf/index.ts';
import { peopleService } from '../people/index.ts';
import { attemptListService, resultsOf } from '../results/index.ts';
import { batchesStore } from './batches.store.ts';

/** What a batch is to do: plain values, so that the queue can keep it and another thread be told. */
export interface BatchOrder {
  readonly id: string;
  readonly classId: string;
  /** Who asked for it: what this person may not read, the job may not either. */
  readonly by: string;
  readonly paper: Paper;
  readonly locale: string;
  readonly nowMs: number;
}

/** Sets the class report and the record of each trainee, and keeps them as one file; stops when it was cancelled. */
export async function setBatch(
  db: Database,
  { id, classId, by, paper, locale, nowMs }: BatchOrder,
): Promise<void> {
  const me = await peopleService(db).byId(by);
  if (!me) throw new AppError('not_found.person');
  const detail = await classesService(db).detail(classId, me);
  const reports = reportsOf(db, detail, me, new Date(nowMs), (day) => dayWords(day, locale));
  const zip = new yazl.ZipFile();
  const packed = collected(zip.outputStream);
  let done = 0;
  for await (const { file, report } of reports) {
    zip.addBuffer(await bytesOf(reportDocument(report, paper)), file, {
      mtime: new Date(nowMs),
      compress: false,
    });
    done += 1;
    // The statement itself looks whether the batch still runs.
    if (!(await batchesStore(db).advance(id, done))) return;
  }
  zip.end();
  await batchesStore(db).finish(id, await packed);
}

async function* reportsOf(
  db: Database,
  detail: ClassDetail,
  me: Person,
  now: Date,
  dayOf: (day: string) => string,
): AsyncGenerator<{ file: string; report: Report }> {
  const results = await resultsOf(db, detail.id, {}, me, now);
  yield { file: fileOf(0, detail.name), report: reportOfClass(detail, results, now, dayOf) };
  const lists = attemptListService(db);
  const faces = await facesStore(db).list(detail.id, null);
  for (const [i, trainee] of detail.trainees.entries()) {
    const query = { trainee: trainee.id, verdict: 'judged' as const, last: LAST_PIECES };
    const replies = {
      trainee,
      results: await resultsOf(db, detail.id, { trainee: trainee.id }, me, now),
      pieces: (await lists.list(detail.id, query, me)).rows,
      certificates: await certificatesStore(db).ofClass(detail.id, trainee.id, now),
      faces,
    };
    yield { file: fileOf(i + 1, trainee.name), report: reportOfTrainee(detail, replies, now, dayOf) };
  }
}

/** A name that every file system takes, in the order of the list: two of one name stay apart by their numbers. */
export const fileOf = (number: number, name: string): string =>
  `${String(number).padStart(3, '0')} ${name
    .replace(/[^\p{L}\p{N}._-]+/gu, ' ')
    .replace(/[. ]+$/, '')
    .trim()}.pdf`;

function collected(stream: NodeJS.ReadableStream): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    stream.on('data', (part: Buffer) => parts.push(part));
    stream.on('end', () => resolve(Buffer.concat(parts)));
    stream.on('error', reject);
  });
}
