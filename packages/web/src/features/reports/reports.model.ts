import { type Criterion, type CriterionOutcome, dayIn, type Policy } from '@clear-mark/core';
import type { AttemptDocument, AttemptRow, Certificate, ClassDetail, Results } from '@clear-mark/contract';
import {
  attemptReport,
  certificateReport,
  classReport,
  type Report,
  type ReportOf,
  traineeReport,
} from '@clear-mark/paper';
import { dayText } from '../../shared/day-range.model.ts';
import { limitWords } from '../../shared/limit-words.ts';
import { momentWords } from '../../shared/time-words.ts';
import { entryWords, partWords } from '../sheet/index.ts';

type Of = Pick<ClassDetail, 'name' | 'place' | 'startsOn' | 'endsOn' | 'timeZone'>;

const of = (detail: Of, now: Date): ReportOf => ({
  className: detail.name,
  place: detail.place,
  days: `${dayText(detail.startsOn)} to ${dayText(detail.endsOn)}`,
  madeAt: dayText(dayIn(detail.timeZone, now)),
});

export const reportOfClass = (detail: Of, results: Results, now: Date): Report =>
  classReport(of(detail, now), results);

export function reportOfTrainee(
  detail: Of & { readonly policy: Policy },
  found: {
    readonly trainee: { readonly id: string; readonly name: string };
    readonly results: Results;
    readonly pieces: readonly AttemptRow[];
    readonly certificates: readonly Certificate[];
  },
  now: Date,
): Report {
  const { trainee, results, pieces, certificates } = found;
  return traineeReport({
    ...of(detail, now),
    traineeName: trainee.name,
    policy: detail.policy,
    cells: results.standings.find((s) => s.traineeId === trainee.id)?.cells ?? [],
    results,
    pieces: pieces.map((p) => ({ ...p, dayWords: dayText(p.day) })),
    certificates: certificates.map((c) => ({ ...c, validUntil: dayText(c.validUntil) })),
  });
}

export function reportOfAttempt(detail: Of, document: AttemptDocument, unit: 'mm' | 'in', now: Date): Report {
  const entries = new Map(document.entries.map((e) => [e.id, e]));
  const valueOf = (criterion: Criterion, { entryIds }: CriterionOutcome): string =>
    (entryIds ?? [])
      .flatMap((id) => {
        const entry = entries.get(id);
        if (!entry) return [];
        const part = entry.part === '' ? '' : `${partWords(entry.part)}: `;
        return [part + entryWords(entry, criterion)];
      })
      .join('; ');
  return attemptReport({
    ...of(detail, now),
    document,
    valueOf,
    limitOf: (c) => limitWords(c, unit),
    momentOf: (instant) => momentWords(instant, 'full'),
  });
}

/** Where a certificate is checked. */
export const verifyAddress = (origin: string, code: string): string => `${origin}/verify/${code}`;

export const reportOfCertificate = (certificate: Certificate, timeZone: string, origin: string): Report =>
  certificateReport(certificate, {
    issuedOn: dayText(dayIn(timeZone, new Date(certificate.issuedAt))),
    dayOf: dayText,
    address: verifyAddress(origin, certificate.code),
  });
