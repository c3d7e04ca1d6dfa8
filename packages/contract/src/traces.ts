import {
  CALLS,
  DIRECTIONS,
  MARK_KINDS,
  type SeriesReading,
  type TraceMark,
  type TraceReading,
} from '@clear-mark/core';
import { z } from 'zod';
import { Id, Label, oneOf } from './common.ts';

export const TRACE_SOURCES = ['file', 'instrument', 'stand_in'] as const;
/** The largest trace file that is kept, bytes: a trace of 256k points takes a fifth of it. */
export const MOST_KEPT_TRACE_BYTES = 3_000_000;
export const TRACE_MEDIA = 'application/octet-stream';

const metres = z.number().min(0).max(1e6);

/** What is said of a trace by whoever keeps it: its link, fiber and direction, and how long the cords at both ends are. */
export const TraceAbout = z.object({
  label: Label,
  linkId: Id.nullable(),
  fiber: z.number().int().min(1).max(3456).nullable(),
  direction: oneOf(DIRECTIONS).nullable(),
  /** Metres of the launch cord from the port, and of the receive cord up to the end; null where there is none, or nobody said. */
  launchM: metres.nullable(),
  receiveM: metres.nullable(),
  attemptId: Id.nullable(),
});
export type TraceAbout = z.infer<typeof TraceAbout>;

/** What goes with a file that is sent: its name, and where it comes from. */
export const TraceFileQuery = z.object({
  label: Label,
  source: z.enum(['file', 'stand_in']).default('file'),
});

/** A trace of the class; its wavelength, pulse and points as its file says them. */
export const TraceRow = TraceAbout.extend({
  id: Id,
  source: oneOf(TRACE_SOURCES),
  wavelengthNm: z.number(),
  pulseNs: z.number(),
  points: z.number().int(),
  takenAt: z.string(),
  takenBy: z.string(),
  linkLabel: z.string().nullable(),
  traineeName: z.string().nullable(),
  pieceLabel: z.string().nullable(),
});
export type TraceRow = z.infer<typeof TraceRow>;

/** What an OTDR is asked for: `rangeM` and `pulseNs` as they are set, and the number of averages. */
export const AcquireBody = TraceAbout.extend({
  id: Id,
  thingId: Id,
  wavelengthNm: z.number().int().min(600).max(1700),
  pulseNs: z.number().int().min(1).max(20_000),
  rangeM: z.number().min(50).max(260_000),
  averages: z.number().int().min(1).max(1_000_000),
  groupIndex: z.number().min(1.3).max(1.7),
});
export type AcquireBody = z.infer<typeof AcquireBody>;

export const TraceMarkShape = z.object({
  positionM: z.number().min(-1e6).max(1e6),
  kind: oneOf(MARK_KINDS),
}) satisfies z.ZodType<TraceMark>;
const Reading = z.custom<TraceReading>((x) => typeof x === 'object' && x !== null);
const Marks = z.array(TraceMarkShape).max(200);

/** What a trainee made of a trace: marks, and the loss of the link as read, dB; null where it was not. */
export const TraceReadingBody = z.object({
  marks: Marks,
  lossDb: z.number().min(-100).max(100).nullable(),
});

/** The reading against what is on the trace, and how many values went onto the sheet that the trace is kept with. */
export const JudgedTraceReading = z.object({
  reading: Reading,
  /** Loss of the link as computed here; null where the trace does not give one. */
  linkLossDb: z.number().nullable(),
  entered: z.number().int(),
});
export type JudgedTraceReading = z.infer<typeof JudgedTraceReading>;

export const NewTraceSeriesBody = z.object({
  id: Id,
  label: Label,
  traceIds: z.array(Id).min(2).max(60),
});

export const TraceAnswerBody = z.object({
  position: z.number().int().min(0),
  marks: Marks,
  said: oneOf(CALLS),
  ms: z.number().int().min(0).max(86_400_000),
});
export type TraceAnswerBody = z.infer<typeof TraceAnswerBody>;

const Result = z.custom<SeriesReading>((x) => typeof x === 'object' && x !== null);

/** A series of traces that are read blind, with who read it. */
export const TraceSeries = z.object({
  id: Id,
  label: z.string(),
  traces: z.number().int(),
  runs: z.array(
    z.object({
      id: Id,
      personName: z.string(),
      answered: z.number().int(),
      result: Result.nullable(),
      attemptId: Id.nullable(),
    }),
  ),
});
export type TraceSeries = z.infer<typeof TraceSeries>;

/** A series that is set for the one who asks. */
export const OwnTraceSeries = z.object({
  id: Id,
  label: z.string(),
  traces: z.number().int(),
  run: z
    .object({ id: Id, answered: z.number().int(), finished: z.boolean(), result: Result.nullable() })
    .nullable(),
});
export type OwnTraceSeries = z.infer<typeof OwnTraceSeries>;

/** The end of a run: what each trace was, beside what was said of it. */
export const FinishedTraceRun = z.object({
  result: Result,
  attemptId: Id.nullable(),
  readings: z.array(
    z.object({
      position: z.number().int(),
      reference: oneOf(CALLS),
      said: oneOf(CALLS).nullable(),
      marks: Marks,
      reading: Reading,
    }),
  ),
});
export type FinishedTraceRun = z.infer<typeof FinishedTraceRun>;

export const TRACE_PATHS = {
  trace: '/api/classes/:id/traces/:traceId/file',
  blind: '/api/trace-runs/:id/traces/:position',
} as const;
