import type { ClassDetail } from '@clear-mark/contract';
import { LAST_PIECES, type Report, reportOfClass, reportOfTrainee } from '@clear-mark/paper';
import { computed, type ComputedRef } from 'vue';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { usePreferences } from '../../shell/preferences.ts';
import { dayText } from '../../shared/day-range.model.ts';
import { reportOfAttempt } from './reports.model.ts';
import { usePictures } from './use-pictures.ts';
import { useReportTraces } from './use-report-traces.ts';

/** Whom a report is of. */
export type Subject =
  | { readonly kind: 'class' }
  | { readonly kind: 'trainee'; readonly id: string }
  | { readonly kind: 'attempt'; readonly id: string };

/** The report of what is chosen, once all that it says is there. */
export function useReport(
  classId: string,
  subject: ComputedRef<Subject>,
  detail: ComputedRef<ClassDetail | null>,
) {
  const preferences = usePreferences();
  const trainee = computed(() => (subject.value.kind === 'trainee' ? subject.value.id : undefined));
  const params = { id: classId };
  const results = useReply(ROUTES.results, () =>
    subject.value.kind === 'attempt' ? null : { params, query: { trainee: trainee.value } },
  );
  const pieces = useReply(ROUTES.attemptList, () =>
    trainee.value === undefined
      ? null
      : { params, query: { trainee: trainee.value, verdict: 'judged' as const, last: String(LAST_PIECES) } },
  );
  const certificates = useReply(ROUTES.certificates, () =>
    trainee.value === undefined ? null : { params, query: { trainee: trainee.value } },
  );
  const attempt = useReply(ROUTES.attempt, () =>
    subject.value.kind === 'attempt' ? { params: { id: subject.value.id } } : null,
  );
  const faces = useReply(ROUTES.faces, () => {
    if (subject.value.kind === 'class') return null;
    const attemptId = subject.value.kind === 'attempt' ? subject.value.id : undefined;
    return { params, query: { attemptId } };
  });
  const pictures = usePictures(classId, () => (subject.value.kind === 'attempt' ? faces.found.value : null));
  const traces = useReportTraces(classId, () => (subject.value.kind === 'attempt' ? subject.value.id : null));
  const report = computed<Report | null>(() => {
    const of = detail.value;
    if (!of) return null;
    const now = new Date();
    if (subject.value.kind === 'attempt')
      return attempt.found.value && pictures.value && traces.value
        ? reportOfAttempt(
            of,
            attempt.found.value,
            { pictures: pictures.value, traces: traces.value },
            preferences.lengthUnit,
            now,
          )
        : null;
    if (!results.found.value) return null;
    if (subject.value.kind === 'class') return reportOfClass(of, results.found.value, now, dayText);
    const person = of.trainees.find((t) => t.id === trainee.value);
    if (!person || !pieces.found.value || !certificates.found.value || !faces.found.value) return null;
    return reportOfTrainee(
      of,
      {
        trainee: person,
        results: results.found.value,
        pieces: pieces.found.value.rows,
        certificates: certificates.found.value,
        faces: faces.found.value,
      },
      now,
      dayText,
    );
  });
  const failure = computed(
    () =>
      results.failure.value ??
      pieces.failure.value ??
      certificates.failure.value ??
      attempt.failure.value ??
      faces.failure.value,
  );
  return { report, failure, certificates, results };
}
