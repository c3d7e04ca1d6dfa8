import { reportDocument, reportOfClass } from '@clear-mark/paper';
import { bytesOf, classesService, resultsOf } from '@clear-mark/server';
import { dayWords } from '@clear-mark/words';
import type { Measured } from './measured.ts';
import { pairsOf, timed, withAttempts } from './results.ts';

/** The pieces of the demo's class: nothing is copied onto them. */
const OF_DEMO = 0;
const ROUNDS = 15;

/** The report of the demo's class of 16 as a PDF, with what it asks of the database, against those questions alone. */
export const benchClassReport = (url: string): Promise<Measured> =>
  withAttempts(url, OF_DEMO, async ({ db, classId, me }) => {
    const now = new Date();
    const asked = async () => {
      const detail = await classesService(db).detail(classId, me);
      return { detail, results: await resultsOf(db, classId, {}, me, now) };
    };
    let bytes = 0;
    const set = async (): Promise<void> => {
      const { detail, results } = await asked();
      const report = reportOfClass(detail, results, now, (day) => dayWords(day, 'en-GB'));
      bytes = (await bytesOf(reportDocument(report, 'A4'))).length;
    };
    const found = await pairsOf(
      ROUNDS,
      () => timed(set),
      () => timed(asked),
    );
    return {
      name: 'class report as PDF / the queries behind it',
      ratio: found.ratio,
      most: 10,
      unit: 'times',
      detail: `${bytes} bytes; median report ${found.call.toFixed(0)} ms, queries ${found.bare.toFixed(0)} ms`,
    };
  });
