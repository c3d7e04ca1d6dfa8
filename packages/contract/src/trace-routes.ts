import { z } from 'zod';
import { Id } from './common.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';
import {
  AcquireBody,
  FinishedTraceRun,
  JudgedTraceReading,
  NewTraceSeriesBody,
  OwnTraceSeries,
  TraceAbout,
  TraceAnswerBody,
  TraceReadingBody,
  TraceRow,
  TraceSeries,
} from './traces.ts';

const ABOUT_ERRORS = [
  ...CLASS_ERRORS,
  'not_found.link',
  'not_found.attempt',
  'trace.attempt_signed',
] as const;

/** Traces of an OTDR, and series of them that are read blind. */
export const TRACE_ROUTES = {
  traces: route('get /classes/:id/traces', 'instructor', {
    params: ById,
    reply: z.array(TraceRow),
    errors: CLASS_ERRORS,
  }),
  describeTrace: route('put /classes/:id/traces/:traceId', 'instructor', {
    params: ById.extend({ traceId: Id }),
    body: TraceAbout,
    reply: TraceRow,
    errors: [...ABOUT_ERRORS, 'not_found.trace'],
  }),
  acquireTrace: route('post /classes/:id/trace-acquisitions', 'instructor', {
    params: ById,
    body: AcquireBody,
    reply: TraceRow,
    errors: [
      ...ABOUT_ERRORS,
      'not_found.instrument',
      'instrument.no_answer',
      'instrument.refused',
      'trace.no_otdr',
    ],
  }),
  readTrace: route('post /classes/:id/traces/:traceId/readings', 'instructor', {
    params: ById.extend({ traceId: Id }),
    body: TraceReadingBody,
    reply: JudgedTraceReading,
    errors: [...CLASS_ERRORS, 'not_found.trace', 'not_found.attempt', 'trace.attempt_signed'],
  }),
  traceSeries: route('get /classes/:id/trace-series', 'instructor', {
    params: ById,
    reply: z.array(TraceSeries),
    errors: CLASS_ERRORS,
  }),
  addTraceSeries: route('post /classes/:id/trace-series', 'instructor', {
    params: ById,
    body: NewTraceSeriesBody,
    errors: [...CLASS_ERRORS, 'not_found.trace', 'series.one_sided_traces'],
  }),
  ownTraceSeries: route('get /own/trace-series', 'signed_in', { reply: z.array(OwnTraceSeries) }),
  startTraceRun: route('post /trace-series/:id/runs', 'signed_in', {
    params: ById,
    body: z.object({ id: Id }),
    reply: z.object({ id: Id, answered: z.array(z.number().int()) }),
    errors: ['not_found.trace_series', 'not_found.class', 'auth.not_in_class'],
  }),
  answerTrace: route('post /trace-runs/:id/answers', 'signed_in', {
    params: ById,
    body: TraceAnswerBody,
    errors: ['not_found.run', 'series.finished', 'series.other_answer', 'series.no_such_trace'],
  }),
  finishTraceRun: route('post /trace-runs/:id/finish', 'signed_in', {
    params: ById,
    reply: FinishedTraceRun,
    errors: ['not_found.run'],
  }),
} as const;
