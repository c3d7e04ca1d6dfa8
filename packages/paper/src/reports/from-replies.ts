import { dayIn, type Policy } from '@clear-mark/core';
import type { AttemptRow, Certificate, ClassDetail, FaceRow, Results } from '@clear-mark/contract';
import type { Report } from '../report.ts';
import { classReport, type ReportOf } from './class-report.ts';
import { traineeReport } from './trainee-report.ts';

export type ReportClass = Pick<ClassDetail, 'name' | 'place' | 'startsOn' | 'endsOn' | 'timeZone'>;
/** A day in words, in the language of the reader. */
export type DayWords = (day: string) => string;

/** Pieces that a record lists. */
export const LAST_PIECES = 25;

export const reportHead = (detail: ReportClass, now: Date, dayOf: DayWords): ReportOf => ({
  className: detail.name,
  place: detail.place,
  days: `${dayOf(detail.startsOn)} to ${dayOf(detail.endsOn)}`,
  madeAt: dayOf(dayIn(detail.timeZone, now)),
});

/** The report of a class, out of what the server replies. */
export const reportOfClass = (detail: ReportClass, results: Results, now: Date, dayOf: DayWords): Report =>
  classReport(reportHead(detail, now, dayOf), results);

export interface TraineeReplies {
  readonly trainee: { readonly id: string; readonly name: string };
  /** Of this trainee alone. */
  readonly results: Results;
  /** The newest first. */
  readonly pieces: readonly AttemptRow[];
  readonly certificates: readonly Certificate[];
  /** End faces of the class: those of others are left out here. */
  readonly faces: readonly FaceRow[];
}

/** The record of a trainee, out of what the server replies. */
export function reportOfTrainee(
  detail: ReportClass & { readonly policy: Policy },
  { trainee, results, pieces, certificates, faces }: TraineeReplies,
  now: Date,
  dayOf: DayWords,
): Report {
  return traineeReport({
    ...reportHead(detail, now, dayOf),
    traineeName: trainee.name,
    policy: detail.policy,
    cells: results.standings.find((s) => s.traineeId === trainee.id)?.cells ?? [],
    results,
    pieces: pieces.map((p) => ({ ...p, dayWords: dayOf(p.day) })),
    certificates: certificates.map((c) => ({ ...c, validUntil: dayOf(c.validUntil) })),
    faces: faces
      .filter((f) => f.traineeId === trainee.id)
      .map((f) => ({ ...f, dayWords: dayOf(dayIn(detail.timeZone, new Date(f.takenAt))) })),
  });
}
