import { z } from 'zod';
import { Id } from './common.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

export const PAPER_NAMES = ['A4', 'Letter'] as const;

/** A language as browsers name it; the days of the reports are written in it. */
export const Locale = z
  .string()
  .max(35)
  .refine((text) => {
    try {
      return Intl.getCanonicalLocales(text).length === 1;
    } catch {
      return false;
    }
  }, 'no language');

/** The class report and the record of each trainee, set one after the other. */
export const ReportBatch = z.object({
  id: Id,
  state: z.enum(['running', 'done', 'cancelled', 'failed']),
  done: z.number().int(),
  total: z.number().int(),
});
export type ReportBatch = z.infer<typeof ReportBatch>;

const OfBatch = ById.extend({ batchId: Id });

export const REPORT_BATCH_ROUTES = {
  startReportBatch: route('post /classes/:id/report-batches', 'instructor', {
    params: ById,
    body: z.object({ id: Id, paper: z.enum(PAPER_NAMES), locale: Locale }),
    reply: ReportBatch,
    errors: [...CLASS_ERRORS, 'report.batch_running'],
  }),
  reportBatch: route('get /classes/:id/report-batches/:batchId', 'instructor', {
    params: OfBatch,
    reply: ReportBatch,
    errors: [...CLASS_ERRORS, 'not_found.job'],
  }),
  /** The one that runs or was made last, by whoever asks; null where there is none. */
  newestReportBatch: route('get /classes/:id/report-batches', 'instructor', {
    params: ById,
    reply: ReportBatch.nullable(),
    errors: CLASS_ERRORS,
  }),
  cancelReportBatch: route('delete /classes/:id/report-batches/:batchId', 'instructor', {
    params: OfBatch,
    errors: [...CLASS_ERRORS, 'not_found.job'],
  }),
} as const;

/** What a batch made: a ZIP file of PDFs. */
export const REPORT_BATCH_PATH = '/api/classes/:id/report-batches/:batchId/reports.zip';
