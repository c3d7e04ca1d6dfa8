import { CALLS, DIRECTIONS } from '@clear-mark/core';
import { z } from 'zod';
import { Count, Moment, Num, Short, table } from './archive-shapes.ts';
import { Id, oneOf } from './common.ts';
import { Sha256 } from './faces.ts';
import { MOST_KEPT_TRACE_BYTES, TRACE_SOURCES, TraceMarkShape } from './traces.ts';

/** Traces of an OTDR, and series of them that are read blind. */
export const TRACE_TABLES = {
  traces: table('a trace of an OTDR with its file, whose bytes are hexadecimal', {
    id: Id,
    class_id: Id,
    sha256: Sha256,
    bytes: z
      .string()
      .regex(/^\\x([0-9a-f]{2})+$/)
      .max(2 + 2 * MOST_KEPT_TRACE_BYTES),
    label: Short,
    link_id: Id.nullable(),
    fiber: Count.nullable(),
    direction: oneOf(DIRECTIONS).nullable(),
    launch_m: Num.nullable(),
    receive_m: Num.nullable(),
    attempt_id: Id.nullable(),
    source: oneOf(TRACE_SOURCES),
    wavelength_nm: Num,
    pulse_ns: Num,
    points: Count,
    taken_at: Moment,
    taken_by: Id,
  }),
  trace_series: table('a series of traces that are read blind', {
    id: Id,
    class_id: Id,
    label: Short,
    made_by: Id,
    made_at: Moment,
  }),
  trace_items: table('a trace of a series, with what is on it', {
    trace_series_id: Id,
    position: Count,
    trace_id: Id,
    events: z.array(z.looseObject({ positionM: Num, kind: Short, ghost: z.boolean() })).max(2000),
    within_m: Num,
    reference: oneOf(CALLS),
  }),
  trace_runs: table('a run of a trainee through a series of traces', {
    id: Id,
    trace_series_id: Id,
    person_id: Id,
    started_at: Moment,
    finished_at: Moment.nullable(),
    attempt_id: Id.nullable(),
  }),
  trace_answers: table('what was marked on a trace of a run', {
    trace_run_id: Id,
    position: Count,
    marks: z.array(TraceMarkShape).max(200),
    said: oneOf(CALLS),
    ms: Count,
    at: Moment,
  }),
} as const;
