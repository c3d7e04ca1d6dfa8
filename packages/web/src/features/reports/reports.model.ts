import { type Criterion, type CriterionOutcome, dayIn } from '@clear-mark/core';
import type { AttemptDocument, Certificate } from '@clear-mark/contract';
import {
  attemptReport,
  certificateReport,
  type Report,
  type ReportPicture,
  type ReportTrace,
  type ReportClass,
  reportHead,
} from '@clear-mark/paper';
import { dayText } from '../../shared/day-range.model.ts';
import { limitWords } from '../../shared/limit-words.ts';
import { momentWords } from '../../shared/time-words.ts';
import { entryWords, partWords } from '../sheet/index.ts';

export function reportOfAttempt(
  detail: ReportClass,
  document: AttemptDocument,
  kept: { readonly pictures: readonly ReportPicture[]; readonly traces: readonly ReportTrace[] },
  unit: 'mm' | 'in',
  now: Date,
): Report {
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
    ...reportHead(detail, now, dayText),
    document,
    ...kept,
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
